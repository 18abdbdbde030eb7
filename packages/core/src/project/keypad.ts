import type { Rect } from '../base/index.ts'
import type { Values } from '../describe/index.ts'
import { noFace } from '../faces/index.ts'
import { leastTargetMm, pixelsPerMm, type PanelProfile } from './profile.ts'

/** A widget of a keypad: what `add widgets` takes. */
export interface KeypadWidget {
  id: string
  kind: string
  name: string
  place: Rect
  settings: Values
}

/** A page of a keypad with its widgets: what `add page` and `add widgets` take. */
export interface KeypadPage {
  id: string
  name: string
  widgets: KeypadWidget[]
}

/** What of a keypad tells what is typed. */
const lines = {
  name: { name: 'What it is for', style: 'style:button', colour: 'colour:ink', align: 'left' },
  was: { name: 'What it was', style: 'style:caption', colour: 'colour:muted', align: 'right' },
  draft: { name: 'What is typed', style: 'style:value', colour: 'colour:ink', align: 'left' },
  range: { name: 'What is taken', style: 'style:caption', colour: 'colour:muted', align: 'left' },
  wrong: { name: 'What is wrong', style: 'style:caption', colour: 'colour:bad', align: 'right' },
} as const
type LineName = keyof typeof lines

/** A key: its text, how many columns it takes, and what it does: types, cancels, or opens another page of the keypad. */
interface Cap {
  text: string
  span?: number
  tone?: 'good' | 'muted'
  types?: string
  opens?: number
}

interface Plan {
  label: string
  meaning: string
  columns: number
  lines: readonly LineName[]
  /** Its pages: one, but for letters. */
  pages: readonly { name: string; rows: readonly (readonly Cap[])[] }[]
}

const letter = (text: string): Cap => ({ text, types: text })
const row = (letters: string): Cap[] => [...letters].map(letter)
const remove: Cap = { text: 'Del', types: 'delete', tone: 'muted' }
const clear: Cap = { text: 'Clear', types: 'clear', tone: 'muted' }
const cancel: Cap = { text: 'Cancel', tone: 'muted' }
const accept: Cap = { text: 'OK', types: 'accept', tone: 'good' }
const sign: Cap = { text: '±', types: 'sign' }
const wide = (cap: Cap, span: number): Cap => ({ ...cap, span })

const figures = (label: string, meaning: string, last: readonly Cap[], told: readonly LineName[]): Plan => ({
  label,
  meaning,
  columns: 4,
  lines: told,
  pages: [
    {
      name: label,
      rows: [
        [...row('123'), remove],
        [...row('456'), clear],
        [...row('789'), cancel],
        [...last, accept],
      ],
    },
  ],
})

/** Letters in the order of `rows`, capitals and small, and a page of figures and signs. */
function letters(order: string, [first, second, third]: readonly [string, string, string]): Plan {
  const foot = (others: Cap): Cap[] => [
    others,
    wide(clear, 2),
    { text: 'Blank', types: 'blank', span: 3 },
    wide(cancel, 2),
    wide(accept, 2),
  ]
  const opens = (text: string, page: number): Cap => ({ text, opens: page, tone: 'muted' })
  const page = (shown: (letters: string) => string, other: Cap): Cap[][] => [
    row(shown(first)),
    row(shown(second) + (second.length < 10 ? '-' : '')),
    [other, ...row(`${shown(third)}${second.length < 10 ? '.' : '-.'}`), remove],
    foot(opens('123', 2)),
  ]
  return {
    label: `Text keypad, ${order}`,
    meaning: 'capitals, small letters, figures and signs',
    columns: 10,
    lines: ['name', 'was', 'draft', 'wrong'],
    pages: [
      { name: 'Text keypad', rows: page((l) => l, opens('abc', 1)) },
      { name: 'Text keypad, small letters', rows: page((l) => l.toLowerCase(), opens('ABC', 0)) },
      {
        name: 'Text keypad, signs',
        rows: [row('1234567890'), row('+-*/=%()&#'), [opens('ABC', 0), ...row('.,:;!?\'"'), remove], foot(opens('abc', 1))],
      },
    ],
  }
}

const all: LineName[] = ['name', 'was', 'draft', 'range', 'wrong']
const plans = {
  decimal: figures('Number keypad', 'figures, sign and point', [sign, ...row('0.')], all),
  number: figures('Whole number keypad', 'figures alone', [wide(letter('0'), 3)], all),
  signed: figures('Signed number keypad', 'figures and sign', [sign, wide(letter('0'), 2)], all),
  hexadecimal: {
    label: 'Hexadecimal keypad',
    meaning: 'figures and A to F',
    columns: 5,
    lines: all,
    pages: [
      {
        name: 'Hexadecimal keypad',
        rows: [row('123AB'), row('456CD'), row('789EF'), [letter('0'), remove, clear, cancel, accept]],
      },
    ],
  },
  code: figures('Code keypad', 'figures for a code: no range is told', [wide(letter('0'), 3)], ['name', 'draft', 'wrong']),
  'text, QWERTY': letters('QWERTY', ['QWERTYUIOP', 'ASDFGHJKL', 'ZXCVBNM']),
  'text, QWERTZ': letters('QWERTZ', ['QWERTZUIOP', 'ASDFGHJKL', 'YXCVBNM']),
  'text, AZERTY': letters('AZERTY', ['AZERTYUIOP', 'QSDFGHJKLM', 'WXCVBN']),
} satisfies Record<string, Plan>

export type KeypadKind = keyof typeof plans

/** The keypads there are, in the order they are offered. */
export const keypads = (Object.keys(plans) as KeypadKind[]).map((kind) => ({
  kind,
  label: plans[kind].label,
  meaning: plans[kind].meaning,
}))

/** A glass that a keypad is made for. */
type Glass = Pick<PanelProfile, 'width' | 'height' | 'diagonalInches' | 'finger'>

/** Pixels between keys, and the least that the lines above them need, px. */
const between = 6
const leastLines = 52

/**
 * Where on a glass everything of a keypad stands: in its middle, rows of keys under the lines that tell what is typed. Keys are as
 * high and wide as a finger needs, where the glass has room for it; the lines take what is left, up to the room of two and a half rows.
 */
function measured({ columns, pages }: Plan, glass: Glass) {
  const rows = pages[0]!.rows.length
  const widest = Math.floor((glass.width - 24) / columns)
  const finger = Math.ceil(leastTargetMm[glass.finger] * pixelsPerMm(glass)) + between
  const roomy = Math.max(26, Math.min(64, Math.floor((glass.height - 16) / (rows + 2.6)), Math.floor(widest * 1.9)))
  const pitch = rows * finger + leastLines + 16 <= glass.height ? Math.max(roomy, Math.min(finger, 96)) : roomy
  const column = Math.max(1, Math.min(Math.max(Math.floor(pitch * 1.35), finger, wordPx), widest))
  const unit = Math.min(pitch, Math.floor((glass.height - 16 - rows * pitch) / 2.6))
  const [width, height] = [columns * column + 16, rows * pitch + Math.floor(2.6 * unit)]
  const [left, top] = [Math.floor((glass.width - width) / 2), Math.floor((glass.height - height) / 2)]
  const inner = { x: left + 11, width: width - 22 }
  const at = (tenths: number) => top + 8 + Math.floor((unit * tenths) / 10)
  const [nameWidth, half] = [Math.floor(inner.width * 0.58), Math.floor(inner.width / 2)]
  const places: Record<LineName, Rect> = {
    name: { ...inner, y: at(0), width: nameWidth, height: Math.floor(unit * 0.52) },
    was: { x: inner.x + nameWidth, y: at(0), width: inner.width - nameWidth, height: Math.floor(unit * 0.52) },
    draft: { ...inner, y: at(5.6), height: Math.floor(unit * 0.94) },
    range: { ...inner, y: at(15.4), width: half, height: Math.floor(unit * 0.5) },
    wrong: { x: inner.x + half, y: at(15.4), width: inner.width - half, height: Math.floor(unit * 0.5) },
  }
  const first = top + height - 8 - rows * pitch
  return {
    whole: { x: left, y: top, width, height },
    places,
    cell: (at: number, row: number, span: number): Rect => ({
      x: left + 8 + at * column + between / 2,
      y: first + row * pitch + between / 2,
      width: span * column - between,
      height: pitch - between,
    }),
  }
}

/** So wide is a key with a word such as “Cancel” on it, px. */
const wordPx = 74

/** The pages of a keypad that are made for a glass, the one to be opened first; `fresh` gives ids that nobody has. */
export function keypadPages(kind: KeypadKind, glass: Glass, fresh: (of: 'page' | 'widget') => string): KeypadPage[] {
  const plan: Plan = plans[kind]
  const { whole, places, cell } = measured(plan, glass)
  const ids = plan.pages.map(() => fresh('page'))
  const act = ({ types, opens }: Cap) =>
    types !== undefined
      ? { deed: 'type', with: { key: types } }
      : opens !== undefined
        ? { deed: 'open layer', with: { layer: ids[opens]! } }
        : { deed: 'close layer', with: {} }
  const key = (cap: Cap, place: Rect): KeypadWidget => ({
    id: fresh('widget'),
    kind: 'button',
    name: `Key ${cap.text}`,
    place,
    settings: {
      // Where a word does not fit, the short one that keyboards have.
      text: cap === cancel && place.width < wordPx - 2 * between ? 'Esc' : cap.text,
      actions: [{ on: { moment: 'pressed' }, lines: [act(cap)] }],
      ...(cap.tone === 'good'
        ? { face: { ...noFace, fill: 'colour:good tint', border: 'colour:good', borderWidth: 1, radius: 8 } }
        : {}),
      ...(cap.tone === 'muted' ? { colour: 'colour:muted' } : {}),
      ...(cap.text.length > 1 && (plan.columns > 5 || place.width < wordPx - between) ? { font: 'style:caption' } : {}),
    },
  })
  const told = (part: LineName): KeypadWidget => {
    const { name, style, colour, align } = lines[part]
    return {
      id: fresh('widget'),
      kind: 'typed',
      name,
      place: places[part],
      settings: { part, font: style, colour, align, ...(part === 'draft' ? {} : { face: noFace }) },
    }
  }
  const back: KeypadWidget['settings'] = {
    draws: 'face',
    face: { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 12 },
  }
  return plan.pages.map(({ name, rows }, page) => ({
    id: ids[page]!,
    name,
    widgets: [
      { id: fresh('widget'), kind: 'shape', name: 'Keypad', place: whole, settings: back },
      ...plan.lines.map(told),
      ...rows.flatMap((caps, row) => {
        let at = 0
        return caps.map((cap) => {
          const { span = 1 } = cap
          at += span
          return key(cap, cell(at - span, row, span))
        })
      }),
    ],
  }))
}
