import { expect } from 'vitest'
import { mustHold, sameJson, seededRandom } from '../base/index.ts'
import { migrateRequest, passGate, undoOf, type Project, type Request } from '../project/index.ts'
import { demo } from './demo.ts'
import { EditMaker } from './edits.ts'

type Loose = Record<string, unknown>
const isLoose = (value: unknown): value is Loose => typeof value === 'object' && value !== null && !Array.isArray(value)
const formerActions: Record<string, string> = { 'open pop-up': 'open layer', 'close pop-up': 'close layer' }

/** A value in the words of form 3. */
function former(value: unknown): unknown {
  if (value === 'variable:own-pop-up') return 'variable:own-layer'
  if (Array.isArray(value)) return value.map(former)
  if (!isLoose(value)) return value
  const { action, with: settings, ...line } = value
  if (typeof action === 'string' && isLoose(settings)) {
    const { popUp, ...rest } = former(settings) as Loose
    return { ...line, deed: formerActions[action] ?? action, with: popUp === undefined ? rest : { ...rest, layer: popUp } }
  }
  return Object.fromEntries(
    Object.entries(value).map(([key, inside]) => [key === 'rules' && Array.isArray(inside) ? 'actions' : key, former(inside)]),
  )
}

/** A document as form 3 kept it. */
export function documentOfForm3(whole: Project): Loose {
  const { layout, panel, pages, pictures, styles, variables, ...rest } = former(whole) as Loose & Record<string, Loose>
  const { kind: _, ...way } = (layout as Loose)['toPanel'] as Loose
  const { pins: __, ...module } = panel as Loose
  const numberless = (records: unknown) =>
    Object.fromEntries(Object.entries(records as Record<string, Loose>).map(([id, { number: _, ...record }]) => [id, record]))
  return {
    ...rest,
    format: 3,
    layout: { name: (layout as Loose)['name'], ...way },
    panel: { ...module, pins: 3, pwm: 1 },
    pages: Object.fromEntries(
      Object.entries(pages as Record<string, Loose>).map(([id, page]) => [
        id,
        page['kind'] === 'pop-up' ? { ...page, kind: 'layer' } : page,
      ]),
    ),
    pictures: numberless(pictures),
    styles: numberless(styles),
    variables: numberless(variables),
    spent: {
      pageNumber: whole.spent.lastNumbers['pages'],
      widgetNumber: whole.spent.lastNumbers['widgets'],
      addresses: whole.spent.addresses,
    },
  }
}

/** A request as a window of form 3 made it. */
function requestOfForm3(request: Request): Request {
  const args = former(request.args) as Loose
  const values = args['values'] as Loose
  if (request.edit === 'set layout') {
    const { name, toPanel } = values as { name?: string; toPanel?: Loose }
    const { kind: _, ...way } = toPanel ?? {}
    return { ...request, args: { values: { ...(name ? { name } : {}), ...way } } }
  }
  if (request.edit === 'add page' && args['kind'] === 'pop-up') return { ...request, args: { ...args, kind: 'layer' } }
  if (request.edit !== 'undo') return { ...request, args }
  const path = (at: string) =>
    at
      .replace(/^\/layout\/toPanel\//, '/layout/')
      .replace(/^(\/widgets\/[^/]+\/settings|\/pages\/[^/]+|\/conduct)\/rules(?=\/|$)/, '$1/actions')
  const patches = (key: string) => (args[key] as { path: string }[]).map((patch) => ({ ...patch, path: path(patch.path) }))
  return { ...request, args: { ...args, patches: patches('patches'), left: patches('left') } }
}

/** A request as a window of form 3 made it, come over. */
export const over = (request: Request): Request => mustHold(migrateRequest(requestOfForm3(request), 3))

/** So many edits, each with its undo, are the same when a window of form 3 made them; of more than so many kinds. */
export function comesOver(rounds: number, kinds: number): void {
  const random = seededRandom(34)
  const maker = new EditMaker(random)
  const seen = new Set<string>()
  let now = demo.project
  for (let k = 0; k < rounds; k++) {
    const request = maker.request(now)
    if (!request || request.edit === 'undo') continue
    // Form 3 had neither: a layer of its own kind is made by nobody, and no number is given by hand.
    if (JSON.stringify(request.args).includes('"kind":"layer"') || request.edit === 'set panel') continue
    const done = passGate(now, request)
    if (!done.ok) continue
    expect(over(request).edit).toBe(request.edit)
    const again = mustHold(passGate(now, over(request)))
    expect(sameJson(again.project, done.value.project)).toBe(true)
    const undo = undoOf(done.value.change, `change:u${k}`)
    if (undo)
      expect(
        sameJson(mustHold(passGate(again.project, over(undo))).project, mustHold(passGate(again.project, undo)).project),
      ).toBe(true)
    seen.add(request.edit)
    now = done.value.project
  }
  expect(seen.size).toBeGreaterThan(kinds)
}
