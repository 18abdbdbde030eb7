import { oneOf } from '../describe/index.ts'
import { darkerOf, inverseOf, isEmptyFace, noFace, paintFace, solidOf, type CompiledFace, type Face } from '../faces/index.ts'
import { rulesType, stepped, type Effect } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import type { Rect } from '../base/index.ts'
import { iconGrid } from '../artwork/index.ts'
import { fillPath, textWidth, type Rgb565, type Surface } from '../raster/index.ts'
import { offOn, type Cell, type Holds, type Value } from '../variables/index.ts'
import { holdsAfter } from './fields.ts'
import { kindOf, type Live } from './kind.ts'
import { paintSill, type Sill } from './marks.ts'
import { faceType, iconType, statesFindings, statesType, stateThatHolds, type CompiledState } from './setting-types.ts'
import {
  commonFields,
  dimmed,
  lettersOfWords,
  paintWords,
  sheetOf,
  textFields,
  textMargin,
  touchFields,
  type TextLook,
  widestOfWords,
} from './text-box.ts'

/** Behaviour of a button: its actions, or one of three ways to write its variable. */
const workTexts = {
  'by its actions': 'run actions',
  switches: 'toggle',
  'is on while held': 'momentary',
  'sets its value': 'set value',
} as const
type Works = keyof typeof workTexts

interface Looks {
  works: Works
  variable: Cell | null
  bit: number
  value: number
  shows: Cell | null
  reaches: number
  states: readonly CompiledState[]
  failAfterMs: number
  text: string
  pendingText: string
  failedText: string
}

/** State of a button. */
interface Kept {
  /** Since when what it has ordered is not what is shown, µs; null while they agree. */
  waitsSinceUs: number | null
  /** When the finger came down, µs; null while there is none. */
  downUs: number | null
}

/** The bit of a word, or the whole of it. */
const partOf = (value: Value, bit: number): number => (bit < 0 ? Number(value) : (Number(value) >> bit) & 1)

/** The value a word of another choice stands for, where both have it; else the value itself. */
function sameWord(value: number, from: Holds, to: Holds): number {
  if (from.type !== 'choice' || to.type !== 'choice') return value
  const word = from.choices.find((c) => c.value === value)?.word
  return to.choices.find((c) => c.word === word)?.value ?? value
}

/** Whether what it has ordered has not come about: its own variable says one thing, the one it shows another. */
function waits(s: Looks, live: Live): boolean {
  const { variable, shows } = s
  if (!variable || !shows) return false
  const ordered = partOf(live.read(variable).value, s.bit)
  const now = Number(live.read(shows).value)
  if (s.works === 'sets its value' || s.works === 'by its actions') return ordered === s.value && now !== s.reaches
  return sameWord(ordered, variable.holds, shows.holds) !== now
}

/** Its state is that of the variable it shows: an order's own, where it shows none. */
function stateOf(s: Looks, live: Live): { state: CompiledState | null; isOn: boolean } {
  const cell = s.shows ?? s.variable
  if (!cell) return { state: null, isOn: false }
  const value = live.read(cell).value
  const whole = Number(value)
  const state = typeof value === 'number' ? stateThatHolds(s.states, whole) : null
  if (s.works === 'by its actions' && !s.shows) return { state, isOn: false }
  if (s.works === 'sets its value' || s.works === 'by its actions')
    return { state, isOn: s.shows ? whole === s.reaches : partOf(whole, s.bit) === s.value }
  return { state, isOn: partOf(whole, s.shows ? -1 : s.bit) !== 0 }
}

type Phase = 'rest' | 'pending' | 'failed'
const phaseOf = (s: Looks, live: Live, kept: Kept): Phase =>
  kept.waitsSinceUs === null || !waits(s, live)
    ? 'rest'
    : s.failAfterMs > 0 && live.nowUs - kept.waitsSinceUs >= s.failAfterMs * 1000
      ? 'failed'
      : 'pending'

function wordsOf(s: Looks, live: Live, kept: Kept): string {
  const phase = phaseOf(s, live, kept)
  if (phase === 'pending' && s.pendingText) return s.pendingText
  if (phase === 'failed' && s.failedText) return s.failedText
  return stateOf(s, live).state?.meaning ?? s.text
}

/** Values that a press, or its end, writes. */
function order(s: Looks, on: boolean, live: Live): Effect[] {
  const cell = s.variable
  if (!cell || cell.holds.type === 'text' || cell.holds.type === 'colour') return []
  const now = Number(live.read(cell).value)
  if (s.bit >= 0) {
    const set = s.works === 'switches' ? partOf(now, s.bit) === 0 : s.works === 'sets its value' ? s.value !== 0 : on
    return [{ do: 'bits', cell, mask: 1 << s.bit, bits: set ? 1 << s.bit : 0 }]
  }
  const value = s.works === 'sets its value' ? s.value : s.works === 'is on while held' ? Number(on) : nextOf(cell, now)
  return [{ do: 'write', cell, value, last: true }]
}

/** A choice goes to its next word and begins again; a number is 0 or not. */
const nextOf = (cell: Cell, now: number): number =>
  cell.holds.type === 'choice' ? stepped(cell, now, 1, 'wrap') : now === 0 ? 1 : 0

/** How often a sill that runs, or fills, is drawn again, ms. */
const stepMs = 120

export const restFace: Face = { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 8 }

interface Dress extends Looks {
  face: CompiledFace
  colour: Rgb565
  pressedLook: 'inverse' | 'its own face' | 'as at rest'
  pressedFace: CompiledFace
  onFace: CompiledFace
  failedFace: CompiledFace
}

/**
 * Its face now, its face at rest, and the text colour of its state. The look of a state goes before that of “on”;
 * a look without a picture never takes the place of one with: then the picture stays, darker while it is pressed.
 */
function facesNow(s: Dress, live: Live, kept: Kept) {
  const { state, isOn } = stateOf(s, live)
  const phase = phaseOf(s, live, kept)
  const pressed = live.pressed && s.pressedLook !== 'as at rest'
  const dressed = state && !isEmptyFace(state.face) ? state : null
  const stands = dressed?.face ?? s.face
  const instead = (look: CompiledFace) => (stands.picture && !look.picture ? null : look)
  const rest = (phase === 'failed' && instead(s.failedFace)) || (isOn && !dressed && instead(s.onFace)) || stands
  const held = s.pressedLook === 'inverse' ? (rest.picture ? null : inverseOf(rest, s.colour)) : instead(s.pressedFace)
  const face = pressed ? (held ?? darkerOf(rest)) : rest
  return { face, rest, own: dressed?.textColour ?? s.colour, isOn, phase, pressed }
}

export const button = kindOf({
  kind: 'button',
  label: 'Button',
  meaning: 'action on touch, with state feedback',
  purpose: 'touch',
  size: { width: 116, height: 50 },
  touchable: true,
  words: 'text',
  settings: described({
    text: { label: 'Text', type: t.text, default: 'Button', group: 'Shows', essential: true, follows: true },
    icon: { label: 'Icon', type: iconType, default: '', group: 'Shows', hint: 'before the text, or alone' },
    works: { label: 'Behaviour', type: oneOf(workTexts), default: 'by its actions', group: 'When touched' },
    variable: {
      label: 'Variable',
      type: t.touched,
      default: '',
      group: 'When touched',
      accepts: ['u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'choice', 'flags'],
    },
    bit: {
      label: 'Bit',
      type: t.whole,
      default: -1,
      min: -1,
      max: 15,
      group: 'When touched',
      of: { variable: 'variable', as: 'bit' },
    },
    value: {
      label: 'Value to set',
      type: t.number,
      default: 1,
      group: 'When touched',
      of: { variable: 'variable', as: 'value' },
    },
    shows: {
      label: 'Feedback variable',
      type: t.variable,
      default: '',
      group: 'Shows',
      hint: 'if the result is in another variable',
      accepts: ['u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'choice', 'flags'],
    },
    reaches: {
      label: 'Expected feedback',
      type: t.number,
      default: 1,
      group: 'Shows',
      hint: 'pending until reached',
      of: { variable: 'shows', as: 'value' },
    },
    failAfterMs: {
      label: 'Feedback timeout',
      type: t.whole,
      default: 8000,
      min: 0,
      max: 600_000,
      unit: 'ms',
      zero: 'never',
      group: 'Shows',
      hint: 'then it shows the error',
    },
    pendingText: { label: 'Text while pending', type: t.text, default: '', group: 'Shows' },
    failedText: { label: 'Text when failed', type: t.text, default: '', group: 'Shows' },
    states: { label: 'States', type: statesType, default: [], group: 'Shows', hint: 'text and face by value' },
    rules: { label: 'When touched', type: rulesType, default: [], group: 'When touched', essential: true },
    holdMs: holdsAfter,
    confirms: {
      label: 'Hold to activate',
      type: t.yesNo,
      default: false,
      group: 'When touched',
      hint: 'runs after the long-press time; an earlier release cancels',
    },
    ...touchFields(true),
    ...textFields('button', 'centre'),
    face: { label: 'Face', type: faceType, default: restFace, group: 'Looks' },
    pressedLook: {
      label: 'Pressed look',
      type: oneOf({ 'its own face': 'custom', inverse: 'inverted', 'as at rest': 'same as normal' }),
      default: 'its own face',
      group: 'Looks',
    },
    pressedFace: {
      label: 'Pressed face',
      type: faceType,
      default: { ...restFace, fill: 'colour:accent', border: 'colour:accent' },
      group: 'Looks',
    },
    pressedColour: {
      label: 'Pressed text colour',
      type: t.colour,
      default: 'colour:ground',
      group: 'Looks',
    },
    onFace: {
      label: 'On face',
      type: faceType,
      default: { ...restFace, fill: 'colour:accent tint', border: 'colour:accent', borderWidth: 2 },
      group: 'Looks',
    },
    failedFace: {
      label: 'Error face',
      type: faceType,
      default: { ...restFace, fill: 'colour:bad tint', border: 'colour:bad', borderWidth: 2 },
      group: 'Looks',
    },
    sill: {
      label: 'State bar',
      type: t.yesNo,
      default: false,
      group: 'Looks',
    },
    sillColour: { label: 'State bar, normal', type: t.colour, default: 'colour:line', group: 'Looks' },
    onColour: { label: 'State bar, on', type: t.colour, default: 'colour:accent', group: 'Looks' },
    failedColour: { label: 'State bar, error', type: t.colour, default: 'colour:bad', group: 'Looks' },
    ...commonFields,
  }),
  fresh: () => ({ settings: { sill: true } }),
  state: (): Kept => ({ waitsSinceUs: null, downUs: null }),
  noticed(s, kept, live) {
    kept.waitsSinceUs = waits(s, live) ? (kept.waitsSinceUs ?? live.nowUs) : null
    return []
  },
  touch(gesture, _place, s, kept, live): Effect[] {
    if (gesture.kind === 'down') kept.downUs = live.nowUs
    const begins = gesture.kind === (s.confirms ? 'held' : 'down')
    const ends = gesture.kind === 'up' || gesture.kind === 'slid off' || gesture.kind === 'cancelled'
    const effects = s.works === 'by its actions' ? [] : begins ? order(s, true, live) : []
    const lets = ends && kept.downUs !== null && s.works === 'is on while held' && !s.confirms ? order(s, false, live) : []
    if (ends) kept.downUs = null
    // A new order waits anew, also where it is the same as before.
    if (begins && (effects.length || kept.waitsSinceUs !== null)) kept.waitsSinceUs = live.nowUs
    return [...effects, ...lets]
  },
  movesEveryMs: (_place, s, live, kept) =>
    phaseOf(s, live, kept) === 'pending' || (live.pressed && s.confirms && kept.downUs !== null) ? stepMs : null,
  paint(surface, place, s, live, kept) {
    const { face, rest, own, isOn, phase, pressed } = facesNow(s, live, kept)
    const ink = !pressed ? own : s.pressedLook === 'inverse' ? Math.max(0, rest.fill) : s.sill ? s.pressedColour : own
    paintFace(surface, place, face)
    const box = s.sill && place.height >= 36 ? { ...place, height: place.height - 8 } : place
    const words = wordsOf(s, live, kept)
    if (s.icon === null) paintWords(surface, box, s, live, words, !live.enabled, ink)
    else paintWithIcon(surface, box, s, live, words, s.icon, ink)
    if (!s.sill) return
    const fills = live.pressed && s.confirms && kept.downUs !== null
    const lit = fills
      ? s.onColour
      : pressed
        ? ink
        : phase === 'failed'
          ? s.failedColour
          : isOn || phase === 'pending'
            ? s.onColour
            : s.sillColour
    dimmed(surface, !live.enabled, () =>
      paintSill(surface, place, sillOf(s, live, kept, phase), lit, pressed && !fills ? s.onColour : s.sillColour),
    )
  },
  shows: (s, live, kept) => wordsOf(s, live, kept),
  solid: (place, s, live, kept) => solidOf(facesNow(s, live, kept).face, place),
  letters: (s, holdsOf) =>
    [lettersOfWords(s.text, holdsOf), s.pendingText, s.failedText, ...s.states.map((state) => state.meaning)].join(''),
  widest: (s, holdsOf) =>
    [...widestOfWords(s.text, holdsOf), s.pendingText, s.failedText, ...s.states.map((state) => state.meaning)].filter(Boolean),
  holdsFor(key, { works, bit, states }) {
    if (key !== 'variable' || bit >= 0 || (works !== 'switches' && works !== 'is on while held')) return null
    if (states.length < 3) return offOn()
    return { type: 'choice', choices: states.map((_, k) => ({ id: `choice:${k + 1}`, value: k, word: String(k) })) } as Holds
  },
  findings(raw, holdsOf) {
    const works = raw.works !== 'by its actions'
    const found = [...statesFindings(raw.states, holdsOf(raw.shows || raw.variable))]
    if (works && raw.variable === '')
      found.push({ code: 'no-own-variable', facts: {}, says: `behaviour “${workTexts[raw.works]}” has no variable to write` })
    const same = JSON.stringify(raw.face) === JSON.stringify(raw.pressedFace)
    // Its press brings another picture.
    const changes =
      (raw.works === 'switches' || raw.works === 'is on while held') &&
      (raw.onFace.picture !== '' || raw.states.some(({ face }) => face.picture !== ''))
    if (changes) return found
    if (
      raw.pressedLook === 'as at rest' ||
      (raw.pressedLook === 'its own face' && same && (!raw.sill || raw.colour === raw.pressedColour))
    )
      found.push({
        code: 'pressed-alike',
        facts: {},
        says: 'pressed and normal looks are identical',
      })
    return found
  },
})

/** An icon before the words, both together as the words would stand; alone in the middle. */
function paintWithIcon(surface: Surface, box: Rect, s: TextLook, live: Live, words: string, icon: string, ink: number): void {
  const sheet = sheetOf(s, live)
  const size = Math.min(
    words ? Math.round((sheet?.capHeight ?? 12) * 1.7) : Math.round(Math.min(box.width, box.height) * 0.56),
    box.width,
    box.height,
  )
  const gap = words ? 7 : 0
  const whole = size + gap + (words && sheet ? textWidth(sheet, words) : 0)
  const left = s.align === 'left' ? textMargin : s.align === 'right' ? box.width - textMargin - whole : (box.width - whole) / 2
  const x = box.x + Math.max(0, Math.floor(left))
  dimmed(surface, !live.enabled, () => {
    fillPath(surface, { x, y: box.y + Math.floor((box.height - size) / 2), width: size, height: size }, icon, iconGrid, ink)
  })
  if (words) paintWords(surface, { ...box, x: x + size + gap - textMargin, width: box.x + box.width - (x + size + gap - textMargin) }, { ...s, align: 'left' }, live, words, !live.enabled, ink) // prettier-ignore
}

function sillOf(s: { confirms: boolean; holdMs: number }, live: Live, kept: Kept, phase: Phase): Sill {
  if (live.pressed && s.confirms && kept.downUs !== null)
    return { is: 'filling', share: Math.min(1, (live.nowUs - kept.downUs) / (s.holdMs * 1000)) }
  if (phase === 'failed') return { is: 'broken' }
  return phase === 'pending' ? { is: 'running', step: Math.floor(live.nowUs / (stepMs * 1000)) } : { is: 'plain' }
}
