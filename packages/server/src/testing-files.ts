import { strToU8, zipSync } from 'fflate'
import { expect, test } from 'vitest'
import { sha256Hex } from '@moth-lamp/core/base'
import { packProject, type Project } from '@moth-lamp/core/project'
import type { ApiProblem } from '@moth-lamp/contract'
import { demo } from '../../core/src/testing/demo.ts'
import { testAssets, testTypefaces } from '../../core/src/testing/fonts.ts'

export const woff = testAssets.get(testTypefaces[0]!.asset)!

/** The demo with another font file in place of one of its own, as a document and as a file. */
export function demoWithFont(font: Uint8Array): { project: Project; assets: Map<string, Uint8Array> } {
  const sha = sha256Hex(font)
  const first = Object.values(demo.project.typefaces)[0]!
  const project = { ...demo.project, typefaces: { ...demo.project.typefaces, [first.id]: { ...first, asset: sha } } } as Project
  return { project, assets: new Map([...demo.assets, [sha, font]]) }
}
export const withFont = (font: Uint8Array): Uint8Array => {
  const { project, assets } = demoWithFont(font)
  return packProject(project, assets)
}

/** Sends a project file to a server that listens on a port. */
export const sendFile = async (port: number, file: Uint8Array, accept = 'application/json') =>
  fetch(`http://127.0.0.1:${port}/api/projects/import`, {
    method: 'POST',
    headers: { 'content-type': 'application/zip', accept },
    body: Buffer.from(file),
  })

/** Sends a file while someone else asks again and again, and counts how often that one was answered meanwhile. */
export async function meanwhile(
  port: number,
  file: Uint8Array,
): Promise<{ status: number; problem: ApiProblem; answered: number }> {
  let over = false
  let answered = 0
  const asking = (async () => {
    for (; !over; answered++) await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()
  })()
  const answer = await sendFile(port, file)
  const problem = (await answer.json()) as ApiProblem
  over = true
  await asking
  return { status: answer.status, problem, answered }
}

/** The test that each of these files is refused by one of its codes, and others are answered more than so often meanwhile. */
export function refusesEach(
  port: () => number,
  files: [name: string, make: () => Uint8Array, codes: string][],
  often: number,
): void {
  test.each(files)('%s is refused in words, and others are answered meanwhile', async (_, make, codes) => {
    const { status, problem, answered } = await meanwhile(port(), make())
    expect(status).toBe(422)
    expect(codes.split(', ')).toContain(problem.code)
    expect(problem.message.length).toBeLessThan(600)
    expect(answered).toBeGreaterThan(often)
  })
}

export const zipped = (text: string): Uint8Array => zipSync({ 'project.json': strToU8(text) }, { level: 9 })
export const filled = (part: string, bytes: number): string => part.repeat(Math.ceil(bytes / part.length)).slice(0, bytes)
export const document = (more: object): string => JSON.stringify({ ...demo.project, ...more })

/** A map with its first record once more under another id. */
export function twice(records: Record<string, { id: string }>): Record<string, unknown> {
  const [first] = Object.values(records)
  const id = `${first!.id}2`
  return { ...records, [id]: { ...first, id } }
}

/** A ZIP whose directory says that its first file has ten bytes. */
export function lying(zip: Uint8Array): Uint8Array {
  const out = zip.slice()
  const view = new DataView(out.buffer)
  for (let at = out.length - 22; at >= 0; at--) if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 10, true)
  return out
}
