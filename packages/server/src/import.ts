import { createWriteStream } from 'node:fs'
import { mkdtemp, readdir, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Request, Response } from 'express'
import type { Problem } from '@moth-lamp/core/base'
import { mostFileBytes } from '@moth-lamp/core/project'
import type { ImportNote } from '@moth-lamp/contract'
import { asAnswer, HttpProblem } from './problem.ts'
import type { Store } from './store.ts'
import type { Workroom } from './work/workroom.ts'

/** Result of reading a file: first for the whole, and then of its assets, as problems of the file. */
const ofFile = ({ code, facts }: Problem): Problem => (code === 'work.slow' ? { code: 'file.slow', facts } : { code, facts })

/**
 * A project file becomes a project: it is put down as it comes, however large; then its document is read, then its assets one by one, each checked in a process that can
 * be killed. Who accepts `application/x-ndjson` is told line by line how far it is (`ImportNote`), the last line is the end
 * of it; everyone else gets one answer. When whoever asked goes away, it stops.
 */
export async function importFile(...about: Parameters<typeof takeFile>): Promise<void> {
  const taking = takeFile(...about)
  const over = taking.catch(() => undefined).finally(() => underWay.delete(over))
  underWay.add(over)
  return taking
}

const underWay = new Set<Promise<void>>()

/** When no file is being taken in any more, and nothing of one is left behind. */
export const importsOver = async (): Promise<void> => void (await Promise.all(underWay))

const folderPrefix = 'moth-lamp-file-'
/** A folder that a server which was killed left behind is nobody's after so long, ms. */
const forgottenMs = 24 * 3600 * 1000

/** Takes away what servers that were killed have left of files that they were taking in. */
export async function sweepImports(nowMs: number): Promise<void> {
  for (const name of await readdir(tmpdir())) {
    if (!name.startsWith(folderPrefix)) continue
    const folder = join(tmpdir(), name)
    const found = await stat(folder).catch(() => null)
    if (found && nowMs - found.mtimeMs > forgottenMs) await rm(folder, { recursive: true, force: true })
  }
}

async function takeFile({ store, work }: { store: Store; work: Workroom }, req: Request, res: Response): Promise<void> {
  if (Number(req.headers['content-length'] ?? 0) > mostFileBytes) {
    // Bytes still being sent are not waited for.
    res.set('connection', 'close')
    throw new HttpProblem(413, 'api.large', { most: mostFileBytes })
  }
  const folder = await mkdtemp(join(tmpdir(), folderPrefix))
  try {
    const file = join(folder, 'project')
    await pipeline(req, noMoreThan(mostFileBytes), createWriteStream(file))
    await readInto(store, work, file, req, res)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Passes bytes on until there are too many of them. */
function noMoreThan(most: number): Transform {
  let bytes = 0
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length
      done(bytes > most ? new HttpProblem(413, 'api.large', { most }) : null, chunk)
    },
  })
}

async function readInto(store: Store, work: Workroom, file: string, req: Request, res: Response): Promise<void> {
  const read = await work.document(file)
  if (!read.ok) throw refusal(read.problem)
  const { assets, ...written } = read.value
  const inLines = req.accepts(['application/json', 'application/x-ndjson']) === 'application/x-ndjson'
  const say = (note: ImportNote) => void (inLines && res.write(`${JSON.stringify(note)}\n`))
  if (inLines) res.status(200).type('application/x-ndjson')
  try {
    for (const [i, sha] of assets.entries()) {
      say({ done: i, of: assets.length })
      const asset = await work.asset(file, sha)
      if (res.destroyed) return
      if (!asset.ok) throw refusal(asset.problem)
      await store.addAsset(sha, asset.value)
    }
    const id = await store.create(written)
    if (!inLines) return void res.status(201).json({ id })
    say({ id })
  } catch (error) {
    if (!inLines || !(error instanceof HttpProblem)) throw error
    say({ problem: asAnswer(error) })
  }
  res.end()
}

const refusal = (problem: Problem): HttpProblem => {
  const { code, facts } = ofFile(problem)
  return new HttpProblem(422, code, facts)
}
