import { connect } from 'node:net'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { strToU8, zipSync } from 'fflate'
import supertest from 'supertest'
import type { KeptProfile, OpenedProject, ProjectSummary } from '@moth-lamp/contract'
import { seededRandom } from '@moth-lamp/core/base'
import { currentForm, plainPanel, unpackProject } from '@moth-lamp/core/project'
import { demoBytes, serverForTest } from './testing.ts'
import type { Running } from './server.ts'
import { Store } from './store.ts'

let running: Running
let http: ReturnType<typeof supertest.agent>
let demo: ProjectSummary

beforeAll(async () => {
  running = await serverForTest()
  http = supertest.agent(`http://127.0.0.1:${running.port}`)
  demo = ((await http.get('/api/projects')).body as ProjectSummary[])[0]!
})
afterAll(() => running.stop())

const change = (id: string, edit: string, args: unknown) => ({ changeId: `change:${id}`, edit, args })
const save = (id: string, base: number, ...changes: unknown[]) =>
  http.post(`/api/projects/${id}/changes`).send({ form: currentForm, base, changes })

describe('a request that is wrong', () => {
  test('is answered by what is wrong with it: the method, the sort of its body, or its content in a few words', async () => {
    const method = await http.patch('/api/projects')
    expect([method.status, (method.body as { message: string }).message]).toEqual([405, expect.stringContaining('use GET, POST')])
    expect((await http.put(`/api/projects/${demo.id}/changes`)).status).toBe(405)
    expect((await http.get('/api/nothing/here')).status).toBe(404)
    const sort = await http.post('/api/projects').set('content-type', 'text/plain').send('hello')
    expect([sort.status, (sort.body as { message: string }).message]).toEqual([415, expect.stringContaining('text/plain')])
    const long = await http.get(`/api/projects/${'p'.repeat(3000)}`)
    expect([long.status, long.text.length < 1200]).toEqual([400, true])
  })
  test('a profile called by a dot is kept and removed like any other', async () => {
    const { panel } = ((await http.get(`/api/projects/${demo.id}`)).body as OpenedProject).project
    expect((await http.put('/api/profiles').send({ name: '.', panel })).status).toBe(204)
    const names = async () => ((await http.get('/api/profiles')).body as KeptProfile[]).map(({ name }) => name)
    expect(await names()).toContain('.')
    expect((await http.delete('/api/profiles').query({ name: '.' })).status).toBe(204)
    expect(await names()).not.toContain('.')
  })
})

describe('projects', () => {
  test('the demo is there, with its figures and its picture', async () => {
    expect(demo).toMatchObject({
      name: 'Heron Hill dome',
      revision: 0,
      width: 800,
      height: 480,
      link: 'lamp binary 19 200 Bd 8N1',
      exchanges: 6,
      passed: null,
      failed: null,
    })
    const picture = await http.get(`/api/projects/${demo.id}/picture`)
    expect(picture.headers['content-type']).toBe('image/png')
    expect((picture.body as Buffer).length).toBeGreaterThan(5000)
  })
  test('new, saved, opened again, exported, imported, deleted, restored', async () => {
    const { id } = (
      await http.post('/api/projects').send({ name: 'Bench', width: 320, height: 240, diagonalInches: 3.5 }).expect(201)
    ).body as { id: string }
    await save(
      id,
      0,
      change('a', 'add variable', { id: 'variable:a', name: 'a' }),
      change('b', 'set project', { values: { name: 'Bench two' } }),
    ).expect(200, { outcome: 'saved', revision: 2 })
    const opened = (await http.get(`/api/projects/${id}`)).body as OpenedProject
    expect([opened.revision, opened.project.name, opened.project.variables['variable:a' as never]]).toMatchObject([
      2,
      'Bench two',
      { address: 16 },
    ])
    const file = await http
      .get(`/api/projects/${id}/file`)
      .buffer(true)
      .parse((res, done) => {
        const parts: Buffer[] = []
        res.on('data', (d: Buffer) => parts.push(d))
        res.on('end', () => done(null, Buffer.concat(parts)))
      })
    const unpacked = unpackProject(new Uint8Array(file.body as Buffer))
    expect(unpacked.ok && unpacked.value.project).toEqual(opened.project)
    const back = (
      await http
        .post('/api/projects/import')
        .set('content-type', 'application/zip')
        .send(file.body as Buffer)
        .expect(201)
    ).body as { id: string }
    expect(((await http.get(`/api/projects/${back.id}`)).body as OpenedProject).project).toEqual(opened.project)
    await http.delete(`/api/projects/${id}`).expect(200)
    await http.get(`/api/projects/${id}`).expect(404)
    await http.post(`/api/projects/${id}/restore`).expect(200)
    await http.get(`/api/projects/${id}`).expect(200)
    const copy = (await http.post(`/api/projects/${id}/duplicate`).expect(201)).body as { id: string }
    expect(((await http.get(`/api/projects/${copy.id}`)).body as OpenedProject).project.name).toBe('Bench two copy')
  })
  test('a project that is handed out has its addresses spent, once', async () => {
    const { id } = (await http.post('/api/projects').send({ name: 'Out', width: 320, height: 240, diagonalInches: 3 })).body as {
      id: string
    }
    await save(id, 0, change('v', 'add variable', { id: 'variable:v', name: 'v' })).expect(200)
    await http.post(`/api/projects/${id}/spend`).expect(200, { spent: 1, missing: [] })
    await http.post(`/api/projects/${id}/spend`).expect(200, { spent: 0, missing: [] })
    const opened = (await http.get(`/api/projects/${id}`)).body as OpenedProject
    expect([opened.revision, Object.values(opened.project.spent.addresses)]).toEqual([2, [{ address: 16, words: 1, name: 'v' }]])
    await http.post('/api/projects/project:none/spend').expect(404)
  })
  test('a panel profile is kept by name, replaced, shared and removed; what is none is refused', async () => {
    const panel = { ...plainPanel, width: 480, height: 272 }
    await http.put('/api/profiles').send({ name: 'Small glass', panel }).expect(204)
    await http
      .put('/api/profiles')
      .send({ name: 'Small glass', panel: { ...panel, touch: 'none' } })
      .expect(204)
    const kept = (await http.get('/api/profiles')).body as KeptProfile[]
    expect(kept).toEqual([{ name: 'Small glass', panel: { ...panel, touch: 'none' } }])
    await http
      .put('/api/profiles')
      .send({ name: 'Bad', panel: { ...panel, memoryTo: panel.memoryFrom - 1 } })
      .expect(400)
    await http.put('/api/profiles').send({ name: 'a\0b', panel }).expect(400)
    await http.delete('/api/profiles/Small%20glass').expect(204)
    expect((await http.get('/api/profiles')).body).toEqual([])
  })
  test('a batch sent again is saved once; behind a newer revision one is told what came between', async () => {
    const { id } = (await http.post('/api/projects').send({ name: 'Twice', width: 320, height: 240, diagonalInches: 3 }))
      .body as { id: string }
    const first = change('one', 'set project', { values: { note: 'x' } })
    await save(id, 0, first).expect(200, { outcome: 'saved', revision: 1 })
    await save(id, 1, first).expect(200, { outcome: 'known', changeIds: ['change:one'] })
    expect((await http.post(`/api/projects/${id}/known`).send({ ids: ['change:one', 'change:none'] })).body).toEqual({
      known: ['change:one'],
    })
    const again = await save(id, 0, first, change('two', 'set project', { values: { note: 'y' } }))
    expect(again.body).toMatchObject({
      outcome: 'behind',
      revision: 1,
      changes: [{ changeId: 'change:one', patches: [{ op: 'replace', path: '/note', value: 'x' }] }],
    })
    expect((await http.get(`/api/projects/${id}/changes?since=0`)).body).toMatchObject({
      revision: 1,
      changes: [{ revision: 1 }],
    })
    expect((await save(id, 1, change('three', 'delete variable', { id: 'variable:gone' }))).body).toMatchObject({
      outcome: 'refused',
      changeId: 'change:three',
      problem: { code: 'edit.gone' },
    })
    expect(((await http.get(`/api/projects/${id}`)).body as OpenedProject).revision).toBe(1)
  })
  test('revisions beyond a snapshot are read back whole', async () => {
    const { id } = (await http.post('/api/projects').send({ name: 'Long', width: 320, height: 240, diagonalInches: 3 })).body as {
      id: string
    }
    const many = (from: number) =>
      Array.from({ length: 70 }, (_, i) => change(`n${from + i}`, 'set project', { values: { note: `n${from + i}` } }))
    await save(id, 0, ...many(0)).expect(200)
    await save(id, 70, ...many(70)).expect(200)
    const snapshots = await running.db.selectFrom('snapshots').select('revision').where('project_id', '=', id).execute()
    expect(snapshots.map((s) => s.revision).sort((a, b) => a - b)).toEqual([0, 140])
    await save(id, 140, ...many(140).slice(0, 9)).expect(200)
    // A store that remembers nothing has the snapshot and the changes after it to go by.
    const cold = await new Store(running.db, seededRandom(1)).open(id)
    expect([cold.revision, cold.project.note]).toEqual([149, 'n148'])
    expect(cold.project).toEqual(((await http.get(`/api/projects/${id}`)).body as OpenedProject).project)
  })
  test('results of exchanges are kept, the last one of each counts', async () => {
    const exchange = 'exchange:open-the-shutter'
    for (const passed of [false, true])
      await http
        .post(`/api/projects/${demo.id}/results`)
        .send({ exchange, revision: 0, passed, failedStep: passed ? null : 'expect report' })
        .expect(200)
    expect((await http.get(`/api/projects/${demo.id}/results`)).body).toMatchObject([{ exchange, passed: true }])
    const listed = ((await http.get('/api/projects')).body as ProjectSummary[]).find((p) => p.id === demo.id)!
    expect([listed.passed, listed.failed]).toEqual([1, 0])
  })
})

describe('wrong requests get a clear answer', () => {
  test.each([
    ['no JSON', () => http.post('/api/projects').set('content-type', 'application/json').send('{oops'), 400, 'api.request'],
    ['a missing name', () => http.post('/api/projects').send({ width: 320, height: 240, diagonalInches: 3 }), 400, 'api.request'],
    ['an id that is none', () => http.get('/api/projects/..%2f..%2fetc'), 400, 'api.request'],
    ['a project that is not there', () => http.get('/api/projects/project:nothing'), 404, 'api.no-project'],
    ['an address that is none', () => http.get('/api/nowhere'), 404, 'api.unknown'],
    ['an asset that is none', () => http.get(`/api/assets/${'0'.repeat(64)}`), 404, 'api.no-asset'],
    [
      'a file that is no ZIP',
      () => http.post('/api/projects/import').set('content-type', 'application/zip').send(Buffer.from('hello')),
      422,
      'file.zip',
    ],
    [
      'a ZIP without a project',
      () =>
        http
          .post('/api/projects/import')
          .set('content-type', 'application/zip')
          .send(Buffer.from(zipSync({ 'a.txt': strToU8('a') }))),
      422,
      'file.no-project',
    ],
    [
      'a project of a later format',
      () =>
        http
          .post('/api/projects/import')
          .set('content-type', 'application/zip')
          .send(Buffer.from(zipSync({ 'project.json': strToU8('{"format":7}') }))),
      422,
      'file.form',
    ],
    [
      'half a project file',
      () => http.post('/api/projects/import').set('content-type', 'application/zip').send(demoBytes().subarray(0, 2000)),
      422,
      'file.zip',
    ],
    [
      'too large a file',
      () =>
        http
          .post('/api/projects/import')
          .set('content-type', 'application/zip')
          .send(Buffer.alloc(145 * 1024 * 1024)),
      413,
      'api.large',
    ],
    [
      'a page of another site',
      () => http.post('/api/projects').set('origin', 'http://elsewhere.example').send({}),
      403,
      'api.origin',
    ],
    ['another name for this machine', () => http.get('/api/projects').set('host', 'elsewhere.example'), 403, 'api.origin'],
    [
      'too many changes',
      () =>
        http
          .post(`/api/projects/${demo.id}/changes`)
          .send({ base: 0, changes: Array.from({ length: 201 }, (_, i) => change(`x${i}`, 'set project', {})) }),
      400,
      'api.request',
    ],
    [
      'a revision from the future',
      () =>
        http
          .post(`/api/projects/${demo.id}/changes`)
          .send({ form: currentForm, base: 99, changes: [change('f', 'set project', { values: { note: '' } })] }),
      409,
      'api.other-history',
    ],
  ])('%s', async (_, request, status, code) => {
    const answer = await request()
    expect([answer.status, (answer.body as { code: string }).code]).toEqual([status, code])
    expect((answer.body as { message: string }).message).toMatch(/^[A-Z].*\.?$/)
  })
  test('listens on loopback only, and tells no framework', async () => {
    const refused = await new Promise((resolve) => {
      const elsewhere = connect(running.port, '127.0.0.2', () => resolve('connected'))
      elsewhere.on('error', (error: NodeJS.ErrnoException) => resolve(error.code))
    })
    expect(refused).toBe('ECONNREFUSED')
    const answer = await http.get('/api/health').expect(200)
    expect(answer.headers['x-powered-by']).toBeUndefined()
    expect(answer.headers['content-security-policy']).toContain("script-src 'self'")
  })
})
