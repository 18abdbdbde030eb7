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

/** Text of a key, what it types, and its column, row and columns wide. */
const keys: readonly [string, string, number, number, number][] = [
  ['7', '7', 0, 0, 1],
  ['8', '8', 1, 0, 1],
  ['9', '9', 2, 0, 1],
  ['4', '4', 0, 1, 1],
  ['5', '5', 1, 1, 1],
  ['6', '6', 2, 1, 1],
  ['1', '1', 0, 2, 1],
  ['2', '2', 1, 2, 1],
  ['3', '3', 2, 2, 1],
  ['0', '0', 0, 3, 1],
  ['.', '.', 1, 3, 1],
  ['+/-', 'sign', 2, 3, 1],
  ['Del', 'delete', 3, 0, 1],
  ['C', 'clear', 3, 1, 1],
  ['OK', 'accept', 3, 3, 1],
]

/** How many ids the widgets of a number keypad need. */
export const keypadSize = keys.length + 3

/** The widgets of a number keypad in the middle of a glass: what `add widgets` takes for a page of the kind keypad. */
export function numberKeypad(glass: { width: number; height: number }, ids: readonly string[]): Key[] {
  const pitch = Math.max(28, Math.min(76, Math.floor((Math.min(glass.width, glass.height) - 24) / 5)))
  const [width, height] = [pitch * 4 + 16, pitch * 5 + 16]
  const [left, top] = [Math.floor((glass.width - width) / 2), Math.floor((glass.height - height) / 2)]
  const cell = (column: number, row: number, wide: number): Rect => ({
    x: left + 8 + column * pitch + 3,
    y: top + 8 + (row + 1) * pitch + 3,
    width: wide * pitch - 6,
    height: pitch - 6,
  })
  const font = { typeface: '', size: Math.max(10, Math.floor(pitch * 0.34)) }
  const press = (deed: string, values: Values = {}) => [{ on: { moment: 'pressed' }, lines: [{ deed, with: values }] }]
  const key = (k: number, text: string, place: Rect, actions: unknown): Key => ({
    id: ids[k]!,
    kind: 'button',
    name: `Key ${text}`,
    place,
    settings: { text, font, actions },
  })
  return [
    {
      id: ids[0]!,
      kind: 'shape',
      name: 'Keypad',
      place: { x: left, y: top, width, height },
      settings: { draws: 'face', face: { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 12 } },
    },
    {
      id: ids[1]!,
      kind: 'typed',
      name: 'Typed',
      place: { x: left + 11, y: top + 11, width: width - 22, height: pitch - 6 },
      settings: { font: { typeface: '', size: Math.max(12, Math.floor(pitch * 0.42)) } },
    },
    ...keys.map(([text, typed, column, row, wide], k) =>
      key(k + 2, text, cell(column, row, wide), press('type', { key: typed })),
    ),
    key(keys.length + 2, 'Esc', cell(3, 2, 1), press('close layer')),
  ]
}
