import { readdirSync, readFileSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { newId, seededRandom } from '@moth-lamp/core/base'
import { assetsOf, currentForm, passGate, undoOf, unpackProject, type Project, type Request } from '@moth-lamp/core/project'
import type { OpenedProject } from '@moth-lamp/contract'
import { hashesOf, type Hashes } from '../../core/src/testing/hashes.ts'
import { keptDatabase, keptFolder, serverForTest } from './testing.ts'
import type { Running } from './server.ts'

type Kept = Record<string, Hashes & { id: string; revision: number }>

/**
 * Hashes that have changed since, and why. Of form 2, the conversations and the pages that show the stamp of the build were kept
 * with its own; these are the same, made when all else still had the hash it was kept with, and stamped alike whatever a
 * build has gained since. Weather shows temperatures: a blank stands before °C now.
 */
const since: Record<string, Record<string, Pick<Hashes, 'pages' | 'conversation' | 'glass'>>> = {
  2: {
    'heron-hill-dome': {
      pages: {
        Setup: '0fe108b4a5f345b64c8b3d794fb7fb6c2cede610c044f1168b15da8de1c80a6e',
        Weather: 'cd70e01658a5615690568a99e975c08bcd0b2eee6ae108d8c0464904477c5108',
      },
      glass: 'cd70e01658a5615690568a99e975c08bcd0b2eee6ae108d8c0464904477c5108',
      conversation: 'ffdcd3963c06fd87fa74be41b99e9355a95b89f346799038e6a63e799681b55f',
    },
    'long-history': {
      pages: {
        Setup: '1d9b89c964f3a6d3ef8bdd5357a237c74ca7e6c512596d3710b9653ca553b45e',
        Weather: '3ae697db72474d1c16ec683136021c5d123184acf8c40f21d4cba665ea54417e',
      },
      glass: '3ae697db72474d1c16ec683136021c5d123184acf8c40f21d4cba665ea54417e',
      conversation: 'a86d6e9f2dfeb309cd31659aae1911497d14681bc2c56f7613a6b21c2f027fda',
    },
  },
}

describe.each(readdirSync(keptFolder).filter((name) => /^\d+$/.test(name)))('the world of form %s', (form) => {
  const kept = JSON.parse(readFileSync(`${keptFolder}/${form}/hashes.json`, 'utf8')) as Kept
  for (const [name, { pages, ...whole }] of Object.entries(since[form] ?? {})) {
    Object.assign(kept[name]!, whole)
    Object.assign(kept[name]!.pages, pages)
  }
  // An exchange without any step has shown nothing: it does not pass any more.
  for (const { verdicts } of Object.values(kept))
    for (const [name, verdict] of Object.entries(verdicts ?? {})) if (verdict === 'passed: ') verdicts[name] = 'failed: '
  const random = seededRandom(Number(form))
  let running: Running
  beforeAll(async () => void (running = await serverForTest({ demos: [], databaseUrl: await keptDatabase(form) })))
  afterAll(() => running.stop())

  const opened = async (id: string) =>
    (await (await fetch(`http://127.0.0.1:${running.port}/api/projects/${id}`)).json()) as OpenedProject
  const save = async (id: string, base: number, request: Request) => {
    const response = await fetch(`http://127.0.0.1:${running.port}/api/projects/${id}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ form: currentForm, base, changes: [request] }),
    })
    return response.json() as Promise<unknown>
  }
  const whatItDoes = async (project: Project): Promise<Hashes> =>
    hashesOf(project, await running.store.assetsFor(assetsOf(project)))

  test.each(Object.keys(kept).filter((name) => kept[name]!.pages))(
    '%s opens, does what it did, is edited, undone and saved',
    async (name) => {
      const { id, revision: was, ...hashes } = kept[name]!
      const { project, revision } = await opened(id)
      expect(revision).toBeGreaterThanOrEqual(was)
      expect(await whatItDoes(project)).toEqual(hashes)
      const request: Request = {
        changeId: newId('change', random),
        edit: 'add page',
        args: { id: newId('page', random), after: '' },
      }
      const done = passGate(project, request)
      if (!done.ok) throw new Error(JSON.stringify(done.problem))
      expect(await save(id, revision, request)).toEqual({ outcome: 'saved', revision: revision + 1 })
      const undo = undoOf(done.value.change, newId('change', random))!
      expect(await save(id, revision + 1, undo)).toEqual({ outcome: 'saved', revision: revision + 2 })
      const after = await opened(id)
      expect(after.revision).toBe(revision + 2)
      expect(await whatItDoes(after.project)).toEqual(hashes)
    },
  )
  test('the deleted one comes back when it is wanted', async () => {
    const { id, revision } = kept['thrown-away']!
    expect(await opened(id)).toMatchObject({ code: 'api.no-project' })
    await fetch(`http://127.0.0.1:${running.port}/api/projects/${id}/restore`, { method: 'POST' })
    const back = await opened(id)
    expect(back.revision).toBeGreaterThanOrEqual(revision)
    expect(Object.values(back.project.variables).map((v) => v.name)).toEqual(['left_over'])
  })
  test.each(readdirSync(`${keptFolder}/${form}`).filter((name) => name.endsWith('.mothlamp')))(
    'the file %s reads the same',
    async (file) => {
      const read = unpackProject(new Uint8Array(readFileSync(`${keptFolder}/${form}/${file}`)))
      if (!read.ok) throw new Error(JSON.stringify(read.problem))
      const { id: _, revision: __, ...hashes } = kept[file.replace('.mothlamp', '')]!
      expect(hashesOf(read.value.project, read.value.assets)).toEqual(hashes)
    },
  )
})
