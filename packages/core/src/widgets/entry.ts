import { noFace, paintFace, type CompiledFace, type Face } from '../faces/index.ts'
import type { Effect } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatValue, isInRange, isNumber, parseValue, type Cell } from '../variables/index.ts'
import { usualLetters } from '../artwork/index.ts'
import { kindOf, type Live } from './kind.ts'
import { numberLetters } from './number.ts'
import { faceType, valueFace } from './setting-types.ts'
import { commonFields, paintWords, textFields, touchFields } from './text-box.ts'

/** What has been typed; null while its keypad is not open. `wrong`: it was not accepted as it stands. */
interface Typing {
  text: string | null
  wrong: boolean
}

const entryFace: Face = { ...noFace, fill: 'colour:ground', border: 'colour:line', borderWidth: 1, radius: 8 }

/** The longest number anyone types. */
const mostTyped = 16

function textOf(s: { variable: Cell | null }, live: Live, typing: Typing): string {
  if (typing.text !== null) return typing.text || '_'
  const cell = s.variable
  if (!cell) return '—'
  const { value, stale } = live.read(cell)
  return stale && cell.stale?.shows === 'dashes' ? '---' : formatValue(cell.holds, value)
}

/** What stands there after a key. */
function typed(text: string, key: string): string {
  if (key === 'delete') return text.slice(0, -1)
  if (key === 'clear') return ''
  if (key === 'sign') return text.startsWith('-') ? text.slice(1) : `-${text}`
  if (key === '.' && text.includes('.')) return text
  return text.length < mostTyped ? text + key : text
}

export const entry = kindOf({
  kind: 'entry',
  label: 'Entry',
  meaning: 'a number that is typed on a keypad',
  size: { width: 150, height: 52 },
  touchable: true,
  settings: described({
    variable: {
      label: 'Variable',
      type: t.touched,
      default: '',
      group: 'Shows',
      essential: true,
      accepts: ['u16', 'i16', 'u32', 'i32', 'f32', 'time'],
    },
    keypad: {
      label: 'Keypad',
      type: t.page,
      default: '',
      accepts: ['keypad'],
      group: 'When touched',
      essential: true,
      hint: 'a page of the kind keypad',
    },
    ...touchFields(true),
    ...textFields('value', 'left'),
    face: { ...valueFace, default: entryFace },
    typingFace: {
      label: 'Face while typing',
      type: faceType,
      default: { ...entryFace, border: 'colour:accent', borderWidth: 2 },
      group: 'Looks',
    },
    wrongColour: { label: 'Colour when not accepted', type: t.colour, default: 'colour:bad', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 100 } }),
  state: (): Typing => ({ text: null, wrong: false }),
  touch(gesture, _place, s, typing): Effect[] {
    if (gesture.kind !== 'up' || !gesture.inside || !s.variable || s.keypad === null) return []
    typing.text = ''
    typing.wrong = false
    return [{ do: 'layer', number: s.keypad }]
  },
  key(key, s, typing): Effect[] {
    const cell = s.variable
    if (!cell || typing.text === null) return []
    if (key !== 'accept') {
      typing.text = typed(typing.text, key)
      typing.wrong = false
      return []
    }
    const read = parseValue(cell.holds, typing.text)
    // What the variable cannot hold stays, to be mended: nothing is cut to fit.
    typing.wrong = !read.ok || !isInRange(cell.holds, read.value)
    if (!read.ok || typing.wrong) return []
    return [
      { do: 'write', cell, value: read.value, last: true },
      { do: 'layer', number: null },
    ]
  },
  closed(typing) {
    typing.text = null
    typing.wrong = false
  },
  paint(surface, place, s, live, typing) {
    paintFace(surface, place, (typing.text === null ? s.face : s.typingFace) as CompiledFace)
    const stale = s.variable !== null && typing.text === null && live.read(s.variable).stale
    paintWords(surface, place, s, live, textOf(s, live, typing), stale || !live.enabled, typing.wrong ? s.wrongColour : s.colour)
  },
  shows: (s, live, typing) => textOf(s, live, typing),
  letters(s, holdsOf) {
    const holds = holdsOf(s.variable)
    return `${numberLetters}_NaInfity${holds && isNumber(holds) ? holds.unit : ''}`
  },
  widest(s, holdsOf) {
    const holds = holdsOf(s.variable)
    return holds && isNumber(holds) ? [holds.min, holds.max].map((v) => formatValue(holds, v).replace(/\d/g, '8')) : []
  },
  findings: (raw) =>
    raw.keypad === '' ? [{ code: 'no-keypad', facts: {}, says: 'it has no keypad: a finger on it opens nothing' }] : [],
})

/** On a keypad: what is being typed there. */
export const typedText = kindOf({
  kind: 'typed',
  label: 'What is typed',
  meaning: 'on a keypad: what is being typed',
  size: { width: 200, height: 44 },
  touchable: false,
  showsTyping: true,
  settings: described({
    ...textFields('value', 'left'),
    face: { label: 'Face', type: faceType, default: entryFace, group: 'Looks' },
    ...commonFields,
  }),
  paint(surface, place, s, live) {
    paintFace(surface, place, s.face)
    paintWords(surface, place, s, live, live.typed(), false)
  },
  shows: (_s, live) => live.typed(),
  letters: () => usualLetters,
})
