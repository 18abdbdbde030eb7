import type { Rect } from '../base/index.ts'
import type { Values } from '../describe/index.ts'
import { noFace } from '../faces/index.ts'
import { startingStyles } from '../palette/index.ts'
import { capitalOfEm, leastCapitalMm, leastTargetMm, pixelsPerMm, type PanelProfile } from './profile.ts'

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

/** Widgets of a keypad that show the input. */
const lines = {
  name: { name: 'Prompt', style: 'style:button', colour: 'colour:ink', align: 'left' },
  was: { name: 'Previous value', style: 'style:caption', colour: 'colour:muted', align: 'right' },
  draft: { name: 'Input', style: 'style:value', colour: 'colour:ink', align: 'left' },
  range: { name: 'Allowed range', style: 'style:caption', colour: 'colour:muted', align: 'left' },
  wrong: { name: 'Error', style: 'style:caption', colour: 'colour:bad', align: 'right' },
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
  columns: number
  lines: readonly LineName[]
  /** Its pages: one, but for letters. Where a row has null, no key stands. */
  pages: readonly { name: string; rows: readonly (readonly (Cap | null)[])[] }[]
}

const letter = (text: string): Cap => ({ text, types: text })
const row = (letters: string): Cap[] => [...letters].map(letter)
const remove: Cap = { text: 'Del', types: 'delete', tone: 'muted' }
const clear: Cap = { text: 'Clear', types: 'clear', tone: 'muted' }
const cancel: Cap = { text: 'Cancel', tone: 'muted' }
const accept: Cap = { text: 'OK', types: 'accept', tone: 'good' }
const sign: Cap = { text: '±', types: 'sign' }
const wide = (cap: Cap, span: number): Cap => ({ ...cap, span })

const shownLines: LineName[] = ['name', 'was', 'draft', 'range', 'wrong']

/** So many keys stand beside and below each other where each is as large as a finger needs. */
interface Room {
  columns: number
  rows: number
}

const opens = (text: string, page: number): Cap => ({ text, opens: page, tone: 'muted' })

/** Figures as on a telephone; on a low glass in two rows of five. `last`: what stands beside the zero, and how wide that is. */
const figures = (
  label: string,
  meaning: string,
  { zero, beside }: { zero: number; beside: readonly Cap[] },
  lines = shownLines,
) => {
  const telephone: Cap[][] = [
    [...row('123'), remove],
    [...row('456'), clear],
    [...row('789'), cancel],
    [...beside.slice(0, 1), wide(letter('0'), zero), ...beside.slice(1), accept],
  ]
  const spare = 6 - beside.length
  const low: Cap[][] = [
    [...row('12345'), remove],
    [...row('67890'), clear],
    [...beside, wide(cancel, Math.ceil(spare / 2)), wide(accept, Math.floor(spare / 2))],
  ]
  return {
    label,
    meaning,
    plan: ({ columns, rows }: Room): Plan =>
      rows < 4 && columns >= 6
        ? { columns: 6, lines, pages: [{ name: label, rows: low }] }
        : { columns: 4, lines, pages: [{ name: label, rows: telephone }] },
  }
}

const hexadecimal = {
  label: 'Hexadecimal keypad',
  meaning: 'digits and A to F',
  plan({ columns, rows }: Room): Plan {
    const name = 'Hexadecimal keypad'
    const foot = [remove, clear, cancel, accept]
    if (columns < 5 && rows >= 5)
      return {
        columns: 4,
        lines: shownLines,
        pages: [{ name, rows: [row('123A'), row('456B'), row('789C'), row('0FED'), foot] }],
      }
    if (rows < 4 && columns >= 6)
      return {
        columns: 6,
        lines: shownLines,
        pages: [
          {
            name,
            rows: [
              [...row('12345'), remove],
              [...row('67890'), clear],
              [wide(opens('A–F', 1), 2), wide(cancel, 2), wide(accept, 2)],
            ],
          },
          {
            name: `${name}, A to F`,
            rows: [
              [...row('ABC').map((cap) => wide(cap, 2))],
              [...row('DE').map((cap) => wide(cap, 2)), letter('F'), remove],
              [wide(opens('0–9', 0), 2), wide(cancel, 2), wide(accept, 2)],
            ],
          },
        ],
      }
    return {
      columns: 5,
      lines: shownLines,
      pages: [{ name, rows: [row('123AB'), row('456CD'), row('789EF'), [letter('0'), ...foot]] }],
    }
  },
}

const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'
const signs = '1234567890+-.,:;!?/()*=%&#\'"'

const blank: Cap = { text: 'Blank', types: 'blank' }
/** Keys that stand beside the letters where the last row has no room for them. */
const extrasOf = (columns: number): Cap[] => (columns >= 6 ? [remove] : columns === 5 ? [clear, remove] : [blank, clear, remove])

/**
 * Letters where ten keys have no room side by side: in the order of the alphabet, as many to a page as there is room for, a key that
 * turns to the next page of the same, and one that turns to small letters, and to digits and signs.
 */
function paged(room: Room): Plan['pages'] {
  const { columns } = room
  const pagesOf = (rows: number) => Math.ceil(alphabet.length / (columns * (rows - 1) - extrasOf(columns).length))
  // No more rows than it needs to have as few pages.
  let rows = Math.min(room.rows, 5)
  while (rows > 3 && pagesOf(rows - 1) === pagesOf(rows)) rows--
  const inFoot = columns >= 6
  const extras = extrasOf(columns)
  const body = columns * (rows - 1)
  const most = body - extras.length
  const sets = [
    { name: 'Text keypad', turn: 'abc', all: alphabet },
    { name: 'Text keypad, small letters', turn: '123', all: alphabet.toLowerCase() },
    { name: 'Text keypad, signs', turn: 'ABC', all: signs },
  ].map((set) => {
    const count = Math.ceil(set.all.length / most)
    const each = Math.ceil(set.all.length / count)
    return { ...set, parts: Array.from({ length: count }, (_, k) => set.all.slice(k * each, (k + 1) * each)) }
  })
  const firsts = sets.map((_, n) => sets.slice(0, n).reduce((sum, { parts }) => sum + parts.length, 0))
  return sets.flatMap(({ name, turn, parts }, n) =>
    parts.map((part, k) => {
      const next = (k + 1) % parts.length
      const turns = [
        ...(parts.length > 1 ? [opens(`${parts[next]![0]}–${parts[next]!.at(-1)!}`, firsts[n]! + next)] : []),
        opens(turn, firsts[(n + 1) % sets.length]!),
      ]
      const others: Cap[] = [...(columns >= 5 ? [blank] : []), ...(inFoot ? [clear] : []), cancel, accept]
      const spare = columns - turns.length - others.length
      // Columns left over widen the last keys: those that end it.
      const foot = [...turns, ...others].map((cap, at, all) => wide(cap, 1 + Math.floor((spare + at) / all.length)))
      const caps = [...row(part), ...Array.from({ length: most - part.length }, () => null), ...extras]
      const lines = Array.from({ length: rows - 1 }, (_, r) => caps.slice(r * columns, (r + 1) * columns))
      return { name: k ? `${name} ${k + 1}` : name, rows: [...lines, foot] }
    }),
  )
}

/** Letters in the order of three rows, capitals and small, and a page of digits and signs; paged on a narrow glass. */
function letters(order: string, [first, second, third]: readonly [string, string, string]) {
  const foot = (others: Cap): Cap[] => [others, wide(clear, 2), wide(blank, 3), wide(cancel, 2), wide(accept, 2)]
  const page = (shown: (letters: string) => string, other: Cap): Cap[][] => [
    row(shown(first)),
    row(shown(second) + (second.length < 10 ? '-' : '')),
    [other, ...row(`${shown(third)}${second.length < 10 ? '.' : '-.'}`), remove],
    foot(opens('123', 2)),
  ]
  const lines: LineName[] = ['name', 'was', 'draft', 'wrong']
  return {
    label: `Text keypad, ${order}`,
    meaning: 'upper and lower case, digits, symbols',
    plan: (room: Room): Plan =>
      room.columns < 10 && room.columns >= 4 && room.rows >= 3
        ? {
            columns: Math.min(room.columns, 9),
            lines,
            pages: paged({ columns: Math.min(room.columns, 9), rows: room.rows }),
          }
        : {
            columns: 10,
            lines,
            pages: [
              { name: 'Text keypad', rows: page((l) => l, opens('abc', 1)) },
              { name: 'Text keypad, small letters', rows: page((l) => l.toLowerCase(), opens('ABC', 0)) },
              {
                name: 'Text keypad, signs',
                rows: [
                  row('1234567890'),
                  row('+-*/=%()&#'),
                  [opens('ABC', 0), ...row('.,:;!?\'"'), remove],
                  foot(opens('abc', 1)),
                ],
              },
            ],
          },
  }
}

const plans = {
  decimal: figures('Number keypad', 'digits, sign and decimal point', { zero: 1, beside: [sign, letter('.')] }),
  number: figures('Whole number keypad', 'digits only', { zero: 3, beside: [] }),
  signed: figures('Signed number keypad', 'digits and sign', { zero: 2, beside: [sign] }),
  hexadecimal,
  code: figures('Code keypad', 'digits, masked, range not shown', { zero: 3, beside: [] }, ['name', 'draft', 'wrong']),
  'text, QWERTY': letters('QWERTY', ['QWERTYUIOP', 'ASDFGHJKL', 'ZXCVBNM']),
  'text, QWERTZ': letters('QWERTZ', ['QWERTZUIOP', 'ASDFGHJKL', 'YXCVBNM']),
  'text, AZERTY': letters('AZERTY', ['AZERTYUIOP', 'QSDFGHJKLM', 'WXCVBN']),
} satisfies Record<string, { label: string; meaning: string; plan(room: Room): Plan }>

export type KeypadKind = keyof typeof plans

/** The keypads there are, in the order they are offered. */
export const keypads = (Object.keys(plans) as KeypadKind[]).map((kind) => ({
  kind,
  label: plans[kind].label,
  meaning: plans[kind].meaning,
}))

/** A glass that a keypad is made for. */
type Glass = Pick<PanelProfile, 'width' | 'height' | 'diagonalInches' | 'finger'>

/** Pixels between keys, and from their rows to the edge of the keypad; less, and smaller words, where keys would be too small for a finger. */
const spacings = [
  { between: 6, edge: 8, outside: 4, isTight: false },
  { between: 4, edge: 4, outside: 0, isTight: true },
]
type Spacing = (typeof spacings)[number]
const fingerPx = (glass: Glass): number => Math.ceil(leastTargetMm[glass.finger] * pixelsPerMm(glass))

/** Sizes of letters on a glass, px: those that its styles begin with, and the least that is read at an arm's length. */
function lettersOn(glass: Glass) {
  const px = pixelsPerMm(glass)
  const sizes = Object.fromEntries(startingStyles(px).map(({ name, size }) => [name, size]))
  const least = Math.ceil((leastCapitalMm * px) / capitalOfEm)
  return { button: sizes['button']!, caption: sizes['caption']!, value: sizes['value']!, least }
}

/** The least that the lines above the keys need, px: a tenth of a line is left above and below its capitals. */
function leastLines(glass: Glass, { isTight }: Spacing): number {
  const { button, caption, value, least } = lettersOn(glass)
  const capitals = isTight ? [least / 0.5, (least * tightDraft) / 0.94] : [button / 0.52, caption / 0.5, value / 0.94]
  return Math.ceil(2.6 * capitalOfEm * 1.05 * Math.max(...capitals))
}
/** On a tight glass, what is typed is so many times as large as the rest. */
const tightDraft = 1.4

/** The keys that a glass has room for. */
function roomOf(glass: Glass, spacing: Spacing): Room {
  const pitch = fingerPx(glass) + spacing.between
  const sides = 2 * (spacing.edge + spacing.outside)
  return {
    columns: Math.floor((glass.width - sides) / pitch),
    rows: Math.floor((glass.height - sides - leastLines(glass, spacing)) / pitch),
  }
}

/**
 * Where on a glass everything of a keypad stands: in its middle, rows of keys under the lines that tell what is typed. Keys are as
 * high and wide as a finger needs, where the glass has room for it; the lines take what is left, up to the room of two and a half rows.
 */
function measured({ columns, pages }: Plan, glass: Glass) {
  const rows = pages[0]!.rows.length
  const fits = (spacing: Spacing) => roomOf(glass, spacing).columns >= columns && roomOf(glass, spacing).rows >= rows
  const spacing = spacings.find(fits) ?? spacings[1]!
  const { between, edge, outside } = spacing
  const sides = 2 * (edge + outside)
  const widest = Math.floor((glass.width - sides) / columns)
  const finger = fingerPx(glass) + between
  const roomy = Math.max(26, Math.min(64, Math.floor((glass.height - sides) / (rows + 2.6)), Math.floor(widest * 1.9)))
  const pitch = rows * finger + leastLines(glass, spacing) + sides <= glass.height ? Math.max(roomy, Math.min(finger, 96)) : roomy
  const column = Math.max(1, Math.min(Math.max(Math.floor(pitch * 1.35), finger, wordPx(glass)), widest))
  const unit = Math.min(pitch, (glass.height - sides - rows * pitch) / 2.6)
  const [width, height] = [columns * column + 2 * edge, rows * pitch + Math.floor(2.6 * unit) + edge]
  const [left, top] = [Math.floor((glass.width - width) / 2), Math.floor((glass.height - height) / 2)]
  const inner = { x: left + edge + 3, width: width - 2 * edge - 6 }
  const at = (tenths: number) => top + edge + Math.floor((unit * tenths) / 10)
  const [nameWidth, half] = [Math.floor(inner.width * 0.58), Math.floor(inner.width / 2)]
  const places: Record<LineName, Rect> = {
    name: { ...inner, y: at(0), width: nameWidth, height: Math.floor(unit * 0.52) },
    was: { x: inner.x + nameWidth, y: at(0), width: inner.width - nameWidth, height: Math.floor(unit * 0.52) },
    draft: { ...inner, y: at(5.6), height: Math.floor(unit * 0.94) },
    range: { ...inner, y: at(15.4), width: half, height: Math.floor(unit * 0.5) },
    wrong: { x: inner.x + half, y: at(15.4), width: inner.width - half, height: Math.floor(unit * 0.5) },
  }
  const first = top + height - edge - rows * pitch
  return {
    isTight: spacing.isTight,
    whole: { x: left, y: top, width, height },
    places,
    cell: (at: number, row: number, span: number): Rect => ({
      x: left + edge + at * column + between / 2,
      y: first + row * pitch + between / 2,
      width: span * column - between,
      height: pitch - between,
    }),
  }
}

/** So wide, and no more, is a letter of most typefaces on an average, in parts of its size. */
const letterOfEm = 0.56
const widthOf = (word: string, size: number): number => letterOfEm * word.length * size
/** So wide is a key with a word such as “Cancel” on it, px. */
const wordPx = (glass: Glass): number => Math.ceil(widthOf('Cancel', lettersOn(glass).button) + 18)

/** The pages of a keypad that are made for a glass, the one to be opened first; `fresh` gives ids that nobody has. */
export function keypadPages(kind: KeypadKind, glass: Glass, fresh: (of: 'page' | 'widget') => string): KeypadPage[] {
  const plan = plans[kind].plan(roomOf(glass, spacings[1]!))
  const { whole, places, cell, isTight } = measured(plan, glass)
  const { button, caption, least } = lettersOn(glass)
  const ids = plan.pages.map(() => fresh('page'))
  const act = ({ types, opens }: Cap) =>
    types !== undefined
      ? { action: 'type', with: { key: types } }
      : opens !== undefined
        ? { action: 'open pop-up', with: { popUp: ids[opens]! } }
        : { action: 'close pop-up', with: {} }
  const small = (times = 1) => ({ typeface: '', size: Math.round(least * times) })
  // Where the word does not fit, the short one that keyboards have.
  const textOf = (cap: Cap, { width }: Rect): string =>
    cap.text === cancel.text && widthOf(cap.text, least) > width ? 'Esc' : cap.text
  const keysOf = (rows: Plan['pages'][number]['rows']): { cap: Cap; place: Rect }[] =>
    rows.flatMap((caps, row) => {
      let at = 0
      return caps.flatMap((cap) => {
        const { span = 1 } = cap ?? {}
        at += span
        return cap ? [{ cap, place: cell(at - span, row, span) }] : []
      })
    })
  const words = plan.pages.flatMap(({ rows }) => keysOf(rows)).filter(({ cap }) => cap.text.length > 1)
  const haveRoom = (size: number) => words.every(({ cap, place }) => widthOf(textOf(cap, place), size) <= place.width)
  // All words have the largest letters that every one has room with; single letters have those of any key.
  const wordFont: Values =
    plan.columns <= 5 && haveRoom(button) ? {} : haveRoom(caption) ? { font: 'style:caption' } : { font: small() }
  const key = (cap: Cap, place: Rect): KeypadWidget => {
    const text = textOf(cap, place)
    return {
      id: fresh('widget'),
      kind: 'button',
      name: `Key ${cap.text}`,
      place,
      settings: {
        text,
        rules: [{ on: { moment: 'pressed' }, lines: [act(cap)] }],
        ...(cap.tone === 'good'
          ? { face: { ...noFace, fill: 'colour:good tint', border: 'colour:good', borderWidth: 1, radius: 8 } }
          : {}),
        ...(cap.tone === 'muted' ? { colour: 'colour:muted' } : {}),
        ...(text.length > 1 ? wordFont : {}),
      },
    }
  }
  const fieldFor = (part: LineName): KeypadWidget => {
    const { name, style, colour, align } = lines[part]
    return {
      id: fresh('widget'),
      kind: 'typed',
      name,
      place: places[part],
      settings: {
        part,
        font: isTight ? small(part === 'draft' ? tightDraft : 1) : style,
        colour,
        align,
        ...(part === 'draft' ? {} : { face: noFace }),
      },
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
      ...plan.lines.map(fieldFor),
      ...keysOf(rows).map(({ cap, place }) => key(cap, place)),
    ],
  }))
}
