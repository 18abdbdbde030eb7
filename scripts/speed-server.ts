// The part of `npm run speed` that needs a server: the shelf, and files that are made to stop others.
import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { strToU8, zipSync } from 'fflate'
import { mustHold } from '@moth-lamp/core/base'
import { packProject, unpackProject } from '@moth-lamp/core/project'
import { hangingFont } from '../packages/core/src/testing/hostile-fonts.ts'
import { freshDatabase } from '../packages/server/src/testing.ts'
import { sha256Hex } from '@moth-lamp/core/base'

const row = (what: string, figure: string, aim: string) => console.log(`${what.padEnd(78)} ${figure.padStart(22)}   ${aim}`)
const root = fileURLToPath(new URL('..', import.meta.url))
const port = 29_000 + (process.pid % 2000)
const server = spawn(process.execPath, [`${root}/packages/server/dist/main.js`], {
  env: { ...process.env, DATABASE_URL: await freshDatabase(), PORT: String(port), MOTH_LAMP_ROOT: root, LOG_LEVEL: 'silent' },
  stdio: ['ignore', 'pipe', 'ignore'],
})
await new Promise((resolve) => server.stdout.once('data', resolve))
const url = (path: string) => `http://127.0.0.1:${port}/api${path}`
const file = new Uint8Array(readFileSync(new URL('../packages/server/demo/heron-hill-dome.mothlamp', import.meta.url)))
const demo = mustHold(unpackProject(file))
const memory = (what: string): number =>
  Number(new RegExp(`${what}:\\s+(\\d+)`).exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024

// --- the shelf
const [first] = (await (await fetch(url('/projects'))).json()) as { id: string }[]
for (let n = 0; n < 199; n++) await fetch(url(`/projects/${first!.id}/duplicate`), { method: 'POST' })
await fetch(url(`/projects/${first!.id}/picture`))
const picture = performance.now()
for (let n = 0; n < 20; n++) await (await fetch(url(`/projects/${first!.id}/picture`))).arrayBuffer()
const onePicture = (performance.now() - picture) / 20
const list = performance.now()
await (await fetch(url('/projects'))).json()
row('the shelf with 200 projects: its list', `${(performance.now() - list).toFixed(0)} ms`, '200 ms')
row('  a picture that is kept', `${onePicture.toFixed(1)} ms`, '')

// --- hostile files
const filled = (part: string, bytes: number) => part.repeat(Math.ceil(bytes / part.length)).slice(0, bytes)
const zipped = (text: string) => zipSync({ 'project.json': strToU8(text) }, { level: 6 })
const font = hangingFont(demo.assets.get(Object.values(demo.project.typefaces)[0]!.asset)!)
const withFont = {
  ...demo.project,
  typefaces: Object.fromEntries(Object.values(demo.project.typefaces).map((t) => [t.id, { ...t, asset: sha256Hex(font) }])),
}
const hostile: [string, Uint8Array][] = [
  ['120 MiB of numbers', zipped(`[${filled('0,', 120 << 20)}0]`)],
  ['15 MiB of empty objects', zipped(`[${filled('{},', 15 << 20)}0]`)],
  ['a note of 15 MiB', zipped(JSON.stringify({ ...demo.project, note: filled('x', 15 << 20) }))],
  ['a font that never ends', packProject(withFont as never, new Map([[sha256Hex(font), font]]))],
]
// Packing took so long that the server has closed the line that was kept open.
await fetch(url('/health')).catch(() => undefined)
for (const [what, bytes] of hostile) {
  const before = memory('VmRSS')
  let [over, slowest, peak] = [false, 0, before]
  const asking = (async () => {
    while (!over) {
      const from = performance.now()
      await (await fetch(url('/health'))).json()
      slowest = Math.max(slowest, performance.now() - from)
      peak = Math.max(peak, memory('VmRSS'))
      await new Promise((resolve) => setTimeout(resolve, 3))
    }
  })()
  const from = performance.now()
  const answer = await fetch(url('/projects/import'), { method: 'POST', body: Buffer.from(bytes) })
  const took = (performance.now() - from) / 1000
  over = true
  await asking
  row(
    `hostile import, ${what}: ${answer.status}, others wait at most ${slowest.toFixed(0)} ms`,
    `${took.toFixed(2)} s, ${(peak - before).toFixed(0)} MB more`,
    '2 s, 300 MB, 50 ms',
  )
}
server.kill()
