import type { Request } from './gate.ts'
import type { Patch } from './patches.ts'

type Loose = Record<string, unknown>
const isLoose = (value: unknown): value is Loose => typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * Form 3 had one way for both directions in the layout, `actions` made of deeds, pins as two counts, one kind of layer for what
 * pages share and for what opens above, and two numbers of what was spent.
 */
export const fromForm3 = {
  document(old: Loose): Loose {
    const whole = renamed(old) as Loose
    return {
      ...whole,
      layout: layoutOf(whole['layout'] as Loose),
      panel: panelOfToday(whole['panel']),
      pages: pagesOf((whole['pages'] ?? {}) as Record<string, Loose>),
      spent: spentOf((whole['spent'] ?? {}) as Loose),
    }
  },
  request(old: Request): Request {
    const args = renamed(old.args) as Loose
    if (old.edit === 'undo')
      return { ...old, args: { ...args, patches: patchesOf(args['patches']), left: patchesOf(args['left']) } }
    if (old.edit === 'set layout') return { ...old, args: { values: layoutValues(args['values'] as Loose) } }
    if (old.edit === 'set panel') return { ...old, args: { values: panelOfToday(args['values']) } }
    // The one button that made a layer said that it lies over a page until it is closed.
    if (old.edit === 'add page' && args['kind'] === 'layer') return { ...old, args: { ...args, kind: 'pop-up' } }
    return { ...old, args }
  },
}

const formerActions: Record<string, string> = { 'open layer': 'open pop-up', 'close layer': 'close pop-up' }

/** Rules, the lines of rules and the word that says which pop-up is open, wherever they stand. */
function renamed(value: unknown): unknown {
  if (value === 'variable:own-layer') return 'variable:own-pop-up'
  if (Array.isArray(value)) return value.map(renamed)
  if (!isLoose(value)) return value
  const { deed, with: settings } = value
  if (typeof deed === 'string' && isLoose(settings)) {
    const { layer, ...rest } = renamed(settings) as Loose
    const opens = layer === undefined ? rest : { ...rest, popUp: layer }
    const { deed: _, with: __, ...line } = value
    return { ...line, action: formerActions[deed] ?? deed, with: opens }
  }
  return Object.fromEntries(
    Object.entries(value).map(([key, inside]) => [key === 'actions' && Array.isArray(inside) ? 'rules' : key, renamed(inside)]),
  )
}

function layoutOf({ name, ...way }: Loose): Loose {
  return { name, toPanel: { kind: 'binary', ...way }, toHost: 'same' }
}

/** Values by key or path of key, as the edit of the layout took them. */
const layoutValues = (values: Loose): Loose =>
  Object.fromEntries(Object.entries(values).map(([key, value]) => [key === 'name' ? key : `toPanel/${key}`, value]))

/** A panel profile of any form, or values of one, with its pins as a list. A count of PWM outputs alone says nothing of the others. */
export function panelOfToday(stored: unknown): unknown {
  if (!isLoose(stored)) return stored
  const { pins, pwm, ...panel } = stored
  if (typeof pins !== 'number') return pins === undefined ? panel : { ...panel, pins }
  const plain = Array.from({ length: pins }, (_, k) => ({ name: `pin ${k + 1}`, output: true, input: true, pwm: false }))
  const dimming = Array.from({ length: Number(pwm ?? 0) }, (_, k) => ({
    name: `PWM ${k + 1}`,
    output: true,
    input: false,
    pwm: true,
  }))
  return { ...panel, pins: [...plain, ...dimming].map((pin, k) => ({ id: `pin:${k + 1}`, ...pin })) }
}

/** A layer that pages share stays one; any other is a pop-up. */
function pagesOf(pages: Record<string, Loose>): Loose {
  const shared = new Set(Object.values(pages).map((page) => page['layer']))
  return Object.fromEntries(
    Object.entries(pages).map(([id, page]) => [
      id,
      page['kind'] === 'layer' && !shared.has(id) ? { ...page, kind: 'pop-up' } : page,
    ]),
  )
}

const spentOf = ({ pageNumber, widgetNumber, ...rest }: Loose): Loose => ({
  ...rest,
  lastNumbers: { pages: pageNumber, widgets: widgetNumber },
  numbers: {},
})

/** The patches of an undo, where they point to and with what they put there. */
function patchesOf(given: unknown): Patch[] {
  const patches = given as Patch[]
  const shared = new Set(
    patches.flatMap((patch) => (/^\/pages\/[^/]+\/layer$/.test(patch.path) && 'value' in patch ? [patch.value] : [])),
  )
  return patches.flatMap((old): Patch[] => {
    const path = pathOf(old.path)
    // Of two counts one alone says nothing of the list.
    if (old.path === '/panel/pwm') return []
    if (old.op === 'remove') return [{ ...old, path }]
    return [{ ...old, path, value: valueAt(old.path, old.value, shared) }]
  })
}

const pathOf = (path: string): string =>
  path
    .replace(/^\/layout\/(?!name$)/, '/layout/toPanel/')
    .replace(/^(\/widgets\/[^/]+\/settings|\/pages\/[^/]+|\/conduct)\/actions(?=\/|$)/, '$1/rules')

function valueAt(path: string, value: unknown, shared: ReadonlySet<unknown>): unknown {
  if (path === '/layout') return layoutOf(value as Loose)
  if (path === '/panel') return panelOfToday(value)
  if (path === '/panel/pins') return (panelOfToday({ pins: value }) as Loose)['pins']
  const [, page, key] = /^\/pages\/([^/]+)(?:\/([^/]+))?$/.exec(path) ?? []
  const popUp = page !== undefined && !shared.has(page)
  if (popUp && key === 'kind' && value === 'layer') return 'pop-up'
  if (popUp && key === undefined && isLoose(value) && value['kind'] === 'layer') return { ...value, kind: 'pop-up' }
  return value
}
