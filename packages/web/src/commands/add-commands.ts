import type { PageId, Rect, VariableId } from '@moth-lamp/core/base'
import { compounds, type Compound } from '@moth-lamp/core/compounds'
import {
  freeName,
  keypadPages,
  shownSize,
  type PictureRecord,
  type KeypadKind,
  type Page,
  type Project,
  type Variable,
} from '@moth-lamp/core/project'
import type { Holds } from '@moth-lamp/core/variables'
import { boundKey, widgetKind, widgetKinds, type WidgetKind } from '@moth-lamp/core/widgets'
import { placedPictures } from './drop-pictures.ts'
import { freshId } from '../session/chance.ts'
import type { Session } from '../session/session.ts'

/** Where something new is put: a point it is centred on, a rectangle, or wherever there is room. */
export type At = { x: number; y: number } | Rect | null

/** Of that size where as little as possible lies: rows of a coarse grid from the top left. */
function freePlace(session: Session, page: Page, size: { width: number; height: number }): Rect {
  const { panel, widgets } = session.project
  const taken = page.widgets.map((id) => widgets[id]!.place)
  const width = Math.min(size.width, panel.width)
  const height = Math.min(size.height, panel.height)
  for (let y = 20; y + height <= panel.height; y += 20)
    for (let x = 20; x + width <= panel.width; x += 20) {
      const clear = taken.every(
        (r) =>
          x + width + 8 <= r.x ||
          r.x + r.width + 8 <= x ||
          y + height + 8 <= r.y ||
          r.y + r.height + 8 <= y ||
          (r.width >= panel.width && r.height >= panel.height),
      )
      if (clear) return { x, y, width, height }
    }
  return { x: Math.floor((panel.width - width) / 2), y: Math.floor((panel.height - height) / 2), width, height }
}

function placeAt(session: Session, page: Page, size: { width: number; height: number }, at: At): Rect {
  if (!at) return freePlace(session, page, size)
  const { panel } = session.project
  const { width, height } = 'width' in at ? at : size
  const [left, top] = 'width' in at ? [at.x, at.y] : [at.x - width / 2, at.y - height / 2]
  const inside = (from: number, length: number, whole: number) => Math.round(Math.max(0, Math.min(from, whole - length)))
  return {
    x: inside(left, width, panel.width),
    y: inside(top, height, panel.height),
    width: Math.round(width),
    height: Math.round(height),
  }
}

/** An offer of the Add list: a kind of widget, or a compound of several. */
export interface Offer {
  name: string
  label: string
  meaning: string
}

export const offeredKinds = (): Offer[] => widgetKinds().map(({ kind, label, meaning }) => ({ name: kind, label, meaning }))
export const offeredCompounds = (): Offer[] =>
  compounds.map(({ compound, label, meaning }) => ({ name: compound, label, meaning }))

const compoundOf = (name: string): Compound | undefined => compounds.find(({ compound }) => compound === name)

export const labelOf = (name: string): string => widgetKind(name)?.label ?? compoundOf(name)?.label ?? ''

/** Variables of the project that a compound could show instead of one of its own. */
export const fittingVariables = (project: Project, name: string): Variable[] => {
  const accepts: readonly Holds['type'][] = compoundOf(name)?.accepts ?? []
  return project.variableOrder.map((id) => project.variables[id]!).filter(({ holds }) => accepts.includes(holds.type))
}

/** Adds what is offered by that name; `variable`: what a compound shows, '' for a variable that is made for it. */
export function addOffered(session: Session, page: Page, name: string, at: At = null, variable = ''): void {
  const kind = widgetKind(name)
  const compound = compoundOf(name)
  session.view.set({ adding: null, addingFor: '', addAt: null, column: 'path' })
  if (kind) addWidget(session, page, kind, at)
  else if (compound) addCompound(session, page, compound, at, variable)
}

/** Adds a widget; one that shows a variable gets one of its own, with an address; one that is typed into gets a keypad. */
function addWidget(session: Session, page: Page, kind: WidgetKind, at: At): void {
  const id = freshId('widget')
  const place = placeAt(session, page, kind.size, at)
  const { pages, pageOrder } = session.project
  const shown = pageOrder.map((id) => pages[id]!).filter((p) => p.kind === 'page')
  const { settings = {}, variable: holds } = kind.fresh?.(shown) ?? {}
  const variable = holds ? freshId('variable') : null
  const key = boundKey(kind.kind)
  const bound = variable && key ? { [key]: variable } : {}
  const keypad = Object.hasOwn(kind.settings.fields, 'keypad') ? keypadOf(session) : null
  const travels = kind.touchable ? 'both' : 'host to panel'
  const done = session.edit('add widgets', {
    page: page.id,
    after: '',
    ...(variable ? { variables: [{ id: variable, name: kind.kind, values: { holds, travels } }] } : {}),
    widgets: [
      {
        id,
        kind: kind.kind,
        place,
        settings: { ...settings, ...bound, ...(keypad ? { keypad } : {}) },
      },
    ],
  })
  if (done) session.view.set({ widgets: [id], variable: null })
}

/** Adds a button that tells the host when it is pressed. */
export function addCommand(session: Session, page: Page): void {
  const kind = widgetKind('button')!
  const id = freshId('widget')
  const rules = [{ on: { moment: 'pressed', everyMs: 0 }, lines: [{ action: 'send event', with: {} }] }]
  const done = session.edit('add widgets', {
    page: page.id,
    after: '',
    widgets: [
      {
        id,
        kind: kind.kind,
        name: 'Start',
        place: placeAt(session, page, kind.size, null),
        settings: { ...kind.fresh?.([]).settings, text: 'Start', rules },
      },
    ],
  })
  if (done) session.view.set({ widgets: [id], variable: null })
}

/** Adds pictures of the project: one as it is, those of a key as a key that switches. */
export function addPictured(session: Session, page: Page, pictures: readonly PictureRecord[], at: Rect | null): void {
  const [first] = pictures
  if (!first) return
  const { x, y, width, height } = at ?? freePlace(session, page, shownSize(first))
  const made = placedPictures(session.project, pictures, ({ file, name }) => file || name, {
    x: x + width / 2,
    y: y + height / 2,
  })
  if (session.edit('add widgets', { page: page.id, after: '', ...made }))
    session.view.set({ widgets: made.widgets.map(({ id }) => id), variable: null })
}

/** `flat_level` → `Flat level`. */
const wordsOfName = (name: string): string => {
  const words = name.replaceAll('_', ' ')
  return words.charAt(0).toUpperCase() + words.slice(1)
}

/** Adds several widgets that are held together, on one variable. */
function addCompound(session: Session, page: Page, compound: Compound, at: At, shows: string): void {
  const { project } = session
  const known = project.variables[shows as VariableId]
  const holds = known?.holds ?? compound.holds
  const taken = project.variableOrder.map((id) => project.variables[id]!.name)
  const name = freeName(compound.compound.replaceAll(' ', '_'), taken, '_')
  const variable = known?.id ?? freshId('variable')
  const parts = compound.parts({
    place: placeAt(session, page, compound.size(holds), at),
    variable,
    holds,
    words: wordsOfName(known?.name ?? name),
    keypad: compound.opensKeypad ? (keypadOf(session) ?? '') : '',
  })
  const ids = parts.map(() => freshId('widget'))
  const done = session.edit('add widgets', {
    page: page.id,
    after: '',
    ...(known ? {} : { variables: [{ id: variable, name, values: { holds, travels: compound.travels } }] }),
    widgets: parts.map((part, k) => ({
      ...part,
      id: ids[k],
      name: `${known?.name ?? name} ${part.name}`.slice(0, 60),
      parent: k > 0 ? ids[0] : '',
    })),
  })
  if (done) session.view.set({ widgets: ids, variable: null })
}

/** The first keypad of the project; where there is none, a new one with its keys. */
function keypadOf(session: Session): string | null {
  const { pages, pageOrder } = session.project
  return pageOrder.find((id) => pages[id]!.kind === 'keypad') ?? addKeypad(session, 'decimal')
}

/** A new keypad on pages of its own, at which these entries are typed; the page to be opened, or null where the gate refused. */
export function addKeypad(session: Session, kind: KeypadKind, opens: readonly string[] = []): PageId | null {
  const pages = keypadPages(kind, session.project.panel, freshId)
  return session.edit('add keypad', { after: '', pages, opens }) ? (pages[0]!.id as PageId) : null
}
