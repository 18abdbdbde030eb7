import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { seededRandom } from '@moth-lamp/core/base'
import { currentForm, type Project } from '@moth-lamp/core/project'
import { serverForTest } from './testing.ts'
import type { Running } from './server.ts'
import { Store } from './store.ts'

let running: Running
beforeAll(async () => void (running = await serverForTest()))
afterAll(() => running.stop())

const call = async (path: string, body?: unknown) => {
  const answer = await fetch(`http://127.0.0.1:${running.port}/api${path}`, {
    ...(body ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
  })
  return {
    status: answer.status,
    body: (await answer.json()) as Record<string, unknown> & { project: Project; revision: number },
  }
}
const fresh = async () =>
  (await call('/projects', { name: 'F', width: 320, height: 240, diagonalInches: 3 })).body['id'] as string
const note = (id: string, text: string) => ({ changeId: `change:${id}`, edit: 'set project', args: { values: { note: text } } })
/** Puts a project back to how form 2 kept it: no kinds of page, both orders in the layout, and its rows say so. */
async function asFormTwo(id: string) {
  const { document, revision } = await running.db
    .selectFrom('snapshots')
    .selectAll()
    .where('project_id', '=', id)
    .orderBy('revision', 'desc')
    .executeTakeFirstOrThrow()
  const { layout, panel, spent, ...rest } = JSON.parse(document) as {
    layout: { name: string; toPanel: Record<string, unknown> }
    panel: Record<string, unknown>
    spent: { lastNumbers: Record<string, number>; addresses: unknown }
    pages: Record<string, { kind?: string }>
  }
  const { kind: _, payload: payloadOrder, ...form } = layout.toPanel
  const { pages: pageNumber, widgets: widgetNumber = 0 } = spent.lastNumbers
  const { order: wordOrder, width, height, diagonalInches } = panel
  const old = {
    ...rest,
    format: 2,
    layout: { name: layout.name, ...form, payloadOrder, wordOrder },
    panel: { width, height, diagonalInches },
    spent: { pageNumber, widgetNumber, addresses: spent.addresses },
  }
  for (const page of Object.values(old.pages)) delete page.kind
  await running.db
    .updateTable('snapshots')
    .set({ form: 2, document: JSON.stringify(old) })
    .where('project_id', '=', id)
    .where('revision', '=', revision)
    .execute()
  await running.db.updateTable('changes').set({ form: 2 }).where('project_id', '=', id).execute()
  await running.db.updateTable('projects').set({ form: 2 }).where('id', '=', id).execute()
}
const cold = () => new Store(running.db, seededRandom(1))

describe('a document of an older form', () => {
  test('becomes one of today when it is opened: a revision of its own, with a snapshot, once', async () => {
    const id = await fresh()
    await call(`/projects/${id}/changes`, { form: currentForm, base: 0, changes: [note('a', 'before')] })
    await asFormTwo(id)
    const opened = await Promise.all(Array.from({ length: 6 }, () => cold().open(id)))
    for (const { revision, project } of opened) {
      expect([revision, project.format, project.note]).toEqual([2, currentForm, 'before'])
      expect(Object.values(project.pages)[0]!.kind).toBe('page')
    }
    const rows = await running.db.selectFrom('changes').selectAll().where('project_id', '=', id).orderBy('revision').execute()
    expect(rows.map((r) => [r.revision, r.edit, r.form])).toEqual([
      [1, 'set project', 2],
      [2, 'migrate', currentForm],
    ])
    const snapshots = await running.db
      .selectFrom('snapshots')
      .select(['revision', 'form'])
      .where('project_id', '=', id)
      .orderBy('revision')
      .execute()
    expect(snapshots).toEqual([
      { revision: 0, form: 2 },
      { revision: 2, form: currentForm },
    ])
  })
  test('is edited, and nothing replays across the border: who was before it loads again', async () => {
    const id = await fresh()
    await asFormTwo(id)
    expect((await cold().open(id)).revision).toBe(1)
    expect((await call(`/projects/${id}/changes`, { form: currentForm, base: 1, changes: [note('b', 'after')] })).body).toEqual({
      outcome: 'saved',
      revision: 2,
    })
    expect((await call(`/projects/${id}/changes?since=0`)).body).toMatchObject({ code: 'api.older-window' })
    expect((await call(`/projects/${id}/changes?since=1`)).body).toMatchObject({
      revision: 2,
      changes: [{ changeId: 'change:b' }],
    })
    expect((await cold().open(id)).project.note).toBe('after')
  })
  test.each([2, undefined, currentForm + 1])(
    'a window of form %s is told to load again, and nothing is written',
    async (form) => {
      const id = await fresh()
      const answer = await call(`/projects/${id}/changes`, { form, base: 0, changes: [note('c', 'x')] })
      expect([answer.status, answer.body['code']]).toEqual([409, 'api.older-window'])
      expect((await call(`/projects/${id}`)).body.revision).toBe(0)
    },
  )
  test('a newer form is refused in words, everywhere it would be read', async () => {
    const id = await fresh()
    await running.db
      .updateTable('projects')
      .set({ form: currentForm + 4 })
      .where('id', '=', id)
      .execute()
    for (const path of ['', '/file', '/picture']) {
      const answer = await call(`/projects/${id}${path}`)
      expect([answer.status, answer.body['code']]).toEqual([409, 'api.newer-form'])
      expect(answer.body['message']).toContain(`format ${currentForm + 4}`)
    }
  })
})

describe('a document that lacks what a description has gained', () => {
  test('is filled when it is read, and kept so, in place', async () => {
    const id = await fresh()
    const { document } = await running.db
      .selectFrom('snapshots')
      .selectAll()
      .where('project_id', '=', id)
      .executeTakeFirstOrThrow()
    const lacking = JSON.parse(document) as { link: Record<string, unknown>; panel: Record<string, unknown> }
    delete lacking.link['latencyMs']
    delete lacking.panel['ownFrom']
    await running.db
      .updateTable('snapshots')
      .set({ document: JSON.stringify(lacking) })
      .where('project_id', '=', id)
      .execute()
    const opened = await cold().open(id)
    expect([opened.revision, opened.project.link.latencyMs, opened.project.panel.ownFrom]).toEqual([0, 4, 0xff00])
    const kept = await running.db.selectFrom('snapshots').selectAll().where('project_id', '=', id).executeTakeFirstOrThrow()
    expect(JSON.parse(kept.document)).toEqual(opened.project)
  })
  test('one that cannot be read says where, and the others are still served', async () => {
    const id = await fresh()
    await running.db.updateTable('snapshots').set({ document: '{"format":4,"name":7}' }).where('project_id', '=', id).execute()
    await expect(cold().open(id)).rejects.toMatchObject({ status: 422, code: 'api.damaged', facts: { where: 'name' } })
    expect((await call('/projects')).status).toBe(200)
  })
})

describe('a change id', () => {
  test('that is known with other content is refused, and with the same content saved once', async () => {
    const id = await fresh()
    const save = async (text: string, base: number) =>
      (await call(`/projects/${id}/changes`, { form: currentForm, base, changes: [note('same', text)] })).body
    expect(await save('one', 0)).toEqual({ outcome: 'saved', revision: 1 })
    expect(await save('one', 1)).toEqual({ outcome: 'known', changeIds: ['change:same'] })
    expect(await save('two', 1)).toMatchObject({
      outcome: 'refused',
      changeId: 'change:same',
      problem: { code: 'gate.id-taken' },
    })
    expect(await save('two', 0)).toMatchObject({ outcome: 'refused', changeId: 'change:same' })
    expect((await call(`/projects/${id}`)).body.project.note).toBe('one')
  })
})
