import type { Rect } from '../base/index.ts'
import type { Values } from '../describe/index.ts'
import { noFace } from '../faces/index.ts'

interface Key {
  id: string
  kind: string
  name: string
  place: Rect
  settings: Values
}

/** Text of a key, what it types, its column and row, and the tone it stands out by. */
const keys: readonly [text: string, typed: string, column: number, row: number, tone?: 'good' | 'muted'][] = [
  ['1', '1', 0, 0],
  ['2', '2', 1, 0],
  ['3', '3', 2, 0],
  ['4', '4', 0, 1],
  ['5', '5', 1, 1],
  ['6', '6', 2, 1],
  ['7', '7', 0, 2],
  ['8', '8', 1, 2],
  ['9', '9', 2, 2],
  ['±', 'sign', 0, 3],
  ['0', '0', 1, 3],
  ['.', '.', 2, 3],
  ['Del', 'delete', 3, 0, 'muted'],
  ['Clear', 'clear', 3, 1, 'muted'],
  ['OK', 'accept', 3, 3, 'good'],
]

/** What of a keypad tells what is typed: part, how high in tenths of a key, and how its words stand. */
const lines = [
  { part: 'name', name: 'What it is for', style: 'style:button', colour: 'colour:ink', align: 'left' },
  { part: 'was', name: 'What it was', style: 'style:caption', colour: 'colour:muted', align: 'right' },
  { part: 'draft', name: 'What is typed', style: 'style:value', colour: 'colour:ink', align: 'left' },
  { part: 'range', name: 'What is taken', style: 'style:caption', colour: 'colour:muted', align: 'left' },
  { part: 'wrong', name: 'What is wrong', style: 'style:caption', colour: 'colour:bad', align: 'right' },
] as const

/** How many ids the widgets of a number keypad need. */
export const keypadSize = 1 + lines.length + keys.length + 1

/** The widgets of a number keypad in the middle of a glass: what `add widgets` takes for a page of the kind keypad. */
export function numberKeypad(glass: { width: number; height: number }, ids: readonly string[]): Key[] {
  // Four rows of keys, and the room of two and a half above them.
  const pitch = Math.max(26, Math.min(64, Math.floor((glass.height - 16) / 6.6), Math.floor((glass.width - 24) / 4.6)))
  const wide = Math.max(pitch, Math.min(Math.floor(pitch * 1.35), Math.floor((glass.width - 24) / 4)))
  const [width, height] = [4 * wide + 16, Math.floor(pitch * 6.6)]
  const [left, top] = [Math.floor((glass.width - width) / 2), Math.floor((glass.height - height) / 2)]
  const inner = { x: left + 11, width: width - 22 }
  const at = (tenths: number) => top + 8 + Math.floor((pitch * tenths) / 10)
  const half = Math.floor(inner.width / 2)
  const places: Record<(typeof lines)[number]['part'], Rect> = {
    name: { ...inner, y: at(0), width: Math.floor(inner.width * 0.58), height: Math.floor(pitch * 0.52) },
    was: {
      x: inner.x + Math.floor(inner.width * 0.58),
      y: at(0),
      width: inner.width - Math.floor(inner.width * 0.58),
      height: Math.floor(pitch * 0.52),
    },
    draft: { ...inner, y: at(5.6), height: Math.floor(pitch * 0.94) },
    range: { ...inner, y: at(15.4), width: half, height: Math.floor(pitch * 0.5) },
    wrong: { x: inner.x + half, y: at(15.4), width: inner.width - half, height: Math.floor(pitch * 0.5) },
  }
  const rows = top + height - 8 - 4 * pitch
  const cell = (column: number, row: number): Rect => ({
    x: left + 8 + column * wide + 3,
    y: rows + row * pitch + 3,
    width: wide - 6,
    height: pitch - 6,
  })
  const press = (deed: string, values: Values = {}) => [{ on: { moment: 'pressed' }, lines: [{ deed, with: values }] }]
  const key = (k: number, text: string, place: Rect, actions: unknown, tone = ''): Key => ({
    id: ids[k]!,
    kind: 'button',
    name: `Key ${text}`,
    place,
    settings: {
      text,
      actions,
      ...(tone === 'good'
        ? { face: { ...noFace, fill: 'colour:good tint', border: 'colour:good', borderWidth: 1, radius: 8 } }
        : {}),
      ...(tone === 'muted' ? { colour: 'colour:muted' } : {}),
    },
  })
  return [
    {
      id: ids[0]!,
      kind: 'shape',
      name: 'Keypad',
      place: { x: left, y: top, width, height },
      settings: {
        draws: 'face',
        face: { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 12 },
      },
    },
    ...lines.map(({ part, name, style, colour, align }, k) => ({
      id: ids[1 + k]!,
      kind: 'typed',
      name,
      place: places[part],
      settings: { part, font: style, colour, align, ...(part === 'draft' ? {} : { face: noFace }) },
    })),
    ...keys.map(([text, typed, column, row, tone], k) =>
      key(1 + lines.length + k, text, cell(column, row), press('type', { key: typed }), tone),
    ),
    key(keypadSize - 1, 'Cancel', cell(3, 2), press('close layer'), 'muted'),
  ]
}
