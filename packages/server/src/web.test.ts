import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import supertest from 'supertest'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { serverForTest } from './testing.ts'
import type { Running } from './server.ts'

const web = mkdtempSync(join(tmpdir(), 'moth-lamp-web-'))
const code = `// ${'a line of the interface '.repeat(200)}`
let running: Running
let agent: ReturnType<typeof supertest>
beforeAll(async () => {
  mkdirSync(join(web, 'built'))
  writeFileSync(join(web, 'index.html'), '<!doctype html><title>Lamp</title>')
  writeFileSync(join(web, 'secret.txt'), 'outside of built')
  writeFileSync(join(web, 'built/index-h4sh.js'), code)
  writeFileSync(join(web, 'built/index-h4sh.js.br'), brotliCompressSync(code))
  writeFileSync(join(web, 'built/index-h4sh.js.gz'), gzipSync(code))
  running = await serverForTest({ demos: [], web })
  agent = supertest(`http://127.0.0.1:${running.port}`)
})
afterAll(async () => {
  await running.stop()
  rmSync(web, { recursive: true })
})

test.each([
  ['br', 'br'],
  ['gzip, br', 'br'],
  ['gzip', 'gzip'],
  ['identity', undefined],
])('a built file for whoever takes %s comes as %s, and is kept for a year', async (accepts, sent) => {
  const response = await fetch(`http://127.0.0.1:${running.port}/built/index-h4sh.js`, {
    headers: { 'accept-encoding': accepts },
  })
  expect(response.status).toBe(200)
  expect(response.headers.get('content-encoding') ?? undefined).toBe(sent)
  expect(response.headers.get('content-type')).toContain('text/javascript')
  expect(response.headers.get('cache-control')).toBe('public, max-age=31536000, immutable')
  expect(await response.text()).toBe(code)
})

test('a built file that is not there is none, and none outside is reached; every other path is the interface', async () => {
  expect((await agent.get('/built/index-old.js')).status).toBe(404)
  expect((await agent.get('/built/..%2fsecret.txt')).status).toBeGreaterThanOrEqual(400)
  expect((await agent.get('/project/project:a/pages')).text).toContain('<title>Lamp</title>')
})
