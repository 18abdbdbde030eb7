import { clamp, type Rect } from '../base/index.ts'
import { oneOf } from '../describe/index.ts'
import { noFace, paintFace, solidOf, type Face } from '../faces/index.ts'
import { fillRounded, type Surface } from '../raster/index.ts'
import type { Effect } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { formatValue, isInRange, isNumber, lettersIn, parseValue, shownIn, type Cell, type Holds } from '../variables/index.ts'
import { touchedVariable, numberTypes } from './fields.ts'
import { rangeOf } from './ends.ts'
import { numberLetters, plainFigures, seenOf, writeNumber, type Figures } from './figures.ts'
import { kindOf, plainFormats, type Found, type Live, type TypedNow } from './kind.ts'
import { faceType, valueFace } from './setting-types.ts'
import { commonFields, paintWords, textFields, touchFields, widestOfValue } from './text-box.ts'

/** Typed input; null while its keypad is not open. `wrong`: why it was not accepted as it stands; ''. */
interface Typing {
  text: string | null
  wrong: string
  /** Value at the opening of the keypad. */
  was: string
}

export const entryFace: Face = { ...noFace, fill: 'colour:ground', border: 'colour:line', borderWidth: 1, radius: 8 }

/** Before what stood there when the keypad was opened. */
const wasBefore = 'was '

/** The longest number anyone types. */
const mostTyped = 16

interface Looks {
  variable: Cell | null
  ends: 'of its variable' | 'its own'
  from: number
  to: number
  outside: 'is refused' | 'becomes the nearest'
  base: 'decimal' | 'hexadecimal'
  hidden: boolean
  asksFor: string
}

/** Figures of an entry, in the base that it is typed in. */
const figuresOf = ({ base }: Pick<Looks, 'base'>): Figures =>
  base === 'hexadecimal' ? { ...plainFigures, base: 'hex', unit: false } : plainFigures

const valueText = (s: Looks, live: Live): string => {
  const cell = s.variable
  if (!cell) return '—'
  const seen = seenOf(cell, live)
  if (seen.unknown) return seen.instead
  return isNumber(cell.holds)
    ? writeNumber(cell.holds, Number(seen.value), figuresOf(s), live.formats)
    : formatValue(cell.holds, seen.value)
}

const dots = (text: string): string => '•'.repeat([...text].length)

function textOf(s: Looks, live: Live, typing: Typing): string {
  if (typing.text === null) return s.hidden && s.variable ? dots(valueText(s, live)) : valueText(s, live)
  return (s.hidden ? dots(typing.text) : typing.text) || '_'
}

/** The range that a number must lie in: that of its variable, and inside it its own ends, low below high. */
function limitsOf(s: Looks): [number, number] {
  const [min, max] = s.variable ? rangeOf(s.variable.holds) : [0, 0]
  if (s.ends !== 'its own') return [min, max]
  const [low, high] = s.from <= s.to ? [s.from, s.to] : [s.to, s.from]
  return [clamp(low, min, max), clamp(high, min, max)]
}

const most = (s: Looks): number => (s.variable?.holds.type === 'text' ? s.variable.holds.bytes : mostTyped)

/** Input after a key. */
function typed(text: string, key: string, s: Looks, live: Live): string {
  const isText = s.variable?.holds.type === 'text'
  if (key === 'delete') return [...text].slice(0, -1).join('')
  if (key === 'clear') return ''
  if (key === 'blank') return isText && text.length < most(s) ? `${text} ` : text
  if (key === 'sign') return isText ? text : text.startsWith('-') ? text.slice(1) : `-${text}`
  if (isText) return text.length < most(s) ? text + key : text
  const mark = live.formats.comma ? ',' : '.'
  const point = key === '.' || key === ','
  const holds = s.variable && typedIn(s, s.variable.holds, live).holds
  const decimals = s.base === 'decimal' && holds && isNumber(holds) ? holds.decimals : 0
  // A number is never typed finer than it is shown: nothing would be seen of the rest.
  if (point) return decimals > 0 && !text.includes(mark) && text.length < most(s) ? text + mark : text
  const after = text.includes(mark) ? text.length - text.indexOf(mark) : 0
  return text.length < most(s) && after <= decimals ? text + key : text
}

const ownWords = (s: Looks, holds: Holds, value: number, live: Live): string =>
  writeNumber(holds, value, { ...figuresOf(s), unit: false }, live.formats)

/** The input as a number; null where it is none. */
function numberIn(text: string, base: Looks['base']): number | null {
  const [, minus = '', digits = ''] = /^(-?)(.+)$/.exec(text) ?? []
  if (base === 'hexadecimal') return /^[0-9a-f]+$/i.test(digits) ? (minus ? -1 : 1) * parseInt(digits, 16) : null
  return /^(\d+\.?\d*|\.\d+)$/.test(digits) ? Number(text) : null
}

/** How far apart two values are, in figures as they are shown. */
function ownDistance(s: Looks, holds: Holds, a: number, b: number, live: Live): string {
  const as = typedIn(s, holds, live)
  const figures = { ...figuresOf(s), unit: false }
  return writeNumber(as.holds, Math.abs(as.shown(a) - as.shown(b)), figures, { ...live.formats, pairs: [] })
}

/** How a number is typed: in the unit that is shown now. */
const typedIn = (s: Looks, holds: Holds, live: Live) => shownIn(holds, s.base === 'decimal' ? live.formats.pairs : [])

/** Why what was typed is not accepted. */
const whyNot = {
  text: 'too long, or with letters it cannot hold',
  noNumber: 'no number',
  above: 'above the range',
  below: 'below the range',
  other: 'not accepted',
}

/** The value of what was typed; a text why there is none. */
function read(s: Looks, text: string, live: Live): { value: number | string } | string {
  const { holds } = s.variable!
  if (holds.type === 'text') {
    const found = parseValue(holds, text)
    return found.ok ? { value: found.value } : whyNot.text
  }
  const plain = live.formats.comma ? text.replace(',', '.') : text
  if (isNumber(holds)) {
    const figures = numberIn(plain, s.base)
    if (figures === null) return whyNot.noNumber
    const number = typedIn(s, holds, live).stored(figures)
    const [low, high] = limitsOf(s)
    if (number >= low && number <= high) return { value: number }
    if (s.outside === 'becomes the nearest') return { value: clamp(number, low, high) }
    const over = number > high
    return `${ownDistance(s, holds, number, over ? high : low, live)} ${over ? whyNot.above : whyNot.below}`
  }
  const found = parseValue(holds, plain)
  return found.ok && isInRange(holds, found.value) ? { value: found.value } : whyNot.other
}

function entryLetters({ variable }: { variable: string }, holdsOf: (variable: string) => Holds | null): string {
  const holds = holdsOf(variable)
  if (holds?.type === 'text') return `${lettersIn(holds)}•_`
  return `${numberLetters(holds)}_•NaInfity`
}

export const entry = kindOf({
  kind: 'entry',
  label: 'Entry',
  meaning: 'number or text typed on a keypad',
  purpose: 'type',
  size: { width: 172, height: 50 },
  touchable: true,
  settings: described({
    variable: touchedVariable(...numberTypes, 'time', 'text'),
    keypad: {
      label: 'Keypad',
      type: t.page,
      default: '',
      accepts: ['keypad'],
      group: 'When touched',
      essential: true,
      hint: 'a page of the kind keypad',
    },
    asksFor: { label: 'Prompt', type: t.text, default: '', group: 'Shows', hint: 'shown on the keypad' },
    ends: {
      label: 'Limits',
      type: oneOf({ 'of its variable': 'range of the variable', 'its own': 'custom' }),
      default: 'of its variable',
      group: 'When touched',
    },
    from: {
      label: 'Minimum',
      type: t.number,
      default: 0,
      group: 'When touched',
      follows: true,
      hint: 'custom limits only',
      brings: { ends: 'its own' },
    },
    to: {
      label: 'Maximum',
      type: t.number,
      default: 100,
      group: 'When touched',
      follows: true,
      hint: 'custom limits only',
      brings: { ends: 'its own' },
    },
    outside: {
      label: 'Out of range',
      type: oneOf({ 'is refused': 'reject', 'becomes the nearest': 'clamp' }),
      default: 'is refused',
      group: 'When touched',
    },
    closesAfterS: {
      label: 'Keypad timeout',
      type: t.whole,
      default: 30,
      min: 0,
      max: 3600,
      unit: 's',
      zero: 'never',
      group: 'When touched',
      hint: 'without a touch',
    },
    base: {
      label: 'Number base',
      type: oneOf({ decimal: 'decimal', hexadecimal: 'hexadecimal' }),
      default: 'decimal',
      group: 'Shows',
      hint: 'numbers only',
    },
    hidden: { label: 'Mask input', type: t.yesNo, default: false, group: 'Shows', hint: 'for access codes' },
    ...touchFields(true),
    ...textFields('value', 'left'),
    face: { ...valueFace, default: entryFace },
    typingFace: {
      label: 'Active face',
      type: faceType,
      default: { ...entryFace, border: 'colour:accent', borderWidth: 2 },
      group: 'Looks',
    },
    wrongColour: { label: 'Rejected text colour', type: t.colour, default: 'colour:bad', group: 'Looks' },
    sign: { label: 'Show keypad icon', type: t.yesNo, default: false, group: 'Looks', hint: 'at the right edge' },
    signColour: { label: 'Keypad icon colour', type: t.colour, default: 'colour:muted', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({
    settings: { sign: true },
    variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 100 },
  }),
  state: (): Typing => ({ text: null, wrong: '', was: '' }),
  touch(gesture, _place, s, typing, live): Effect[] {
    if (gesture.kind !== 'up' || !gesture.inside || !s.variable || s.keypad === null) return []
    Object.assign(typing, { text: '', wrong: '', was: s.hidden ? '' : valueText(s, live) })
    return [{ do: 'pop-up', number: s.keypad, closesAfterMs: s.closesAfterS * 1000 }]
  },
  key(key, s, typing, live): Effect[] {
    const cell = s.variable
    if (!cell || typing.text === null) return []
    const told = (text: string) => {
      const found = text === '' || text === '-' ? { value: 0 } : read(s, text, live)
      return typeof found === 'string' && found !== whyNot.noNumber ? found : ''
    }
    if (key !== 'accept') {
      typing.text = typed(typing.text, key, s, live)
      typing.wrong = told(typing.text)
      return []
    }
    // Rejected input stays, to be corrected: nothing is cut to fit.
    const found = read(s, typing.text, live)
    if (typeof found === 'string') {
      typing.wrong = found
      return []
    }
    return [
      { do: 'write', cell, value: found.value, last: true },
      { do: 'pop-up', number: null },
    ]
  },
  closed(typing) {
    Object.assign(typing, { text: null, wrong: '', was: '' })
  },
  typing(s, typing, live): TypedNow {
    const { holds } = s.variable ?? {}
    const [low, high] = limitsOf(s)
    const number = holds && isNumber(holds) ? holds : null
    return {
      draft: textOf(s, live, typing),
      name: s.asksFor,
      was: typing.was ? `${wasBefore}${typing.was}` : '',
      range: number ? `${ownWords(s, number, low, live)} … ${ownWords(s, number, high, live)}` : '',
      wrong: typing.wrong,
    }
  },
  solid: (place, s, _live, typing) => solidOf(typing.text === null ? s.face : s.typingFace, place),
  paint(surface, place, s, live, typing) {
    paintFace(surface, place, typing.text === null ? s.face : s.typingFace)
    const stale = s.variable !== null && typing.text === null && seenOf(s.variable, live).stale
    const room = s.sign && place.width > 90 ? { ...place, width: place.width - 34 } : place
    paintWords(surface, room, s, live, textOf(s, live, typing), stale || !live.enabled, typing.wrong ? s.wrongColour : s.colour)
    if (room !== place && typing.text === null) paintKeys(surface, place, s.signColour)
  },
  shows: (s, live, typing) => textOf(s, live, typing),
  letters: entryLetters,
  typingLetters: (s, holdsOf) => `${entryLetters(s, holdsOf)}${s.asksFor}${wasBefore}…${Object.values(whyNot).join('')}`,
  widest(s, holdsOf) {
    const holds = holdsOf(s.variable)
    return holds && isNumber(holds)
      ? [holds.min, holds.max].map((v) => writeNumber(holds, v, figuresOf(s), plainFormats).replace(/\d/g, '8'))
      : widestOfValue(holds)
  },
  findings(raw, holdsOf) {
    const holds = holdsOf(raw.variable)
    const found: Found[] = []
    if (raw.keypad === '') found.push({ code: 'no-keypad', facts: {}, says: 'no keypad assigned' })
    if (raw.ends === 'its own' && typeof raw.from === 'number' && typeof raw.to === 'number' && holds && isNumber(holds)) {
      if (raw.from >= raw.to)
        found.push({ code: 'entry-ends', facts: {}, says: `minimum ${raw.from} is not below maximum ${raw.to}` })
      else if (raw.from > holds.max || raw.to < holds.min)
        found.push({ code: 'entry-ends', facts: {}, says: 'limits exclude every value of the variable' })
    }
    return found
  },
})

/** Nine dots: what is typed, not turned or pulled. */
function paintKeys(surface: Surface, place: Rect, colour: number): void {
  const [pitch, size] = [7, 4]
  const left = place.x + place.width - 12 - (2 * pitch + size)
  const top = place.y + Math.floor((place.height - 2 * pitch - size) / 2)
  for (let k = 0; k < 9; k++)
    fillRounded(surface, { x: left + (k % 3) * pitch, y: top + Math.floor(k / 3) * pitch, width: size, height: size }, 1, colour)
}

/** On a keypad: what is being typed there, or what belongs to it. */
export const typedText = kindOf({
  kind: 'typed',
  label: 'Keypad field',
  meaning: 'on a keypad: input, prompt, previous value, allowed range or error',
  purpose: 'type',
  size: { width: 200, height: 44 },
  touchable: false,
  showsTyping: true,
  settings: described({
    part: {
      label: 'Shows',
      type: oneOf({ draft: 'input', name: 'prompt', was: 'previous value', range: 'allowed range', wrong: 'error' }),
      default: 'draft',
      group: 'Shows',
      essential: true,
    },
    ...textFields('value', 'left'),
    face: { label: 'Face', type: faceType, default: entryFace, group: 'Looks' },
    wrongColour: { label: 'Rejected text colour', type: t.colour, default: 'colour:bad', group: 'Looks' },
    ...commonFields,
  }),
  solid: (place, s) => solidOf(s.face, place),
  paint(surface, place, s, live) {
    const now = live.typed()
    paintFace(surface, place, s.face)
    const isWrong = now.wrong !== '' && (s.part === 'draft' || s.part === 'wrong')
    paintWords(surface, place, s, live, now[s.part], false, isWrong ? s.wrongColour : s.colour)
  },
  shows: (s, live) => live.typed()[s.part],
  // Besides those of the widgets that are typed into.
  letters: () => '_•',
})
