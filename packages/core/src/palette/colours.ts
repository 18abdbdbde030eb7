import { clamp } from '../base/index.ts'
import { colourParts, type ColourText } from '../describe/index.ts'
import { channelsOf, colourToRgb565, expand565 } from '../raster/index.ts'

/** How a glass looks at a time: dark for the night, bright for the day. */
export const lookNames = ['night', 'day'] as const
export type Look = (typeof lookNames)[number]

/** Which looks a project has; with both, a word of the panel says which is shown. */
export const lookChoices = ['night', 'day', 'both'] as const
export type Looks = (typeof lookChoices)[number]

export type ColourId = `colour:${string}`

/** A colour of a project by its name: `#rrggbb` for each look. */
export interface NamedColour {
  id: ColourId
  name: string
  night: string
  day: string
}

/** The colours every project has, by what they are for; the defaults of every kind are made of them. */
export const colourRoles = ['ground', 'surface', 'line', 'ink', 'muted', 'accent', 'good', 'warning', 'bad', 'off'] as const
export type ColourRole = (typeof colourRoles)[number]

/** Purpose of each, in words. */
export const roleMeanings: Readonly<Record<ColourRole, string>> = {
  ground: 'page background',
  surface: 'buttons, cards',
  line: 'borders, ticks, lines',
  ink: 'text and values',
  muted: 'secondary text',
  accent: 'selected, active, on',
  good: 'OK',
  warning: 'caution',
  bad: 'alarm',
  off: 'inactive, unlit parts',
}

export const roleId = (role: ColourRole): ColourId => `colour:${role}`
export const isRole = (id: string): boolean => colourRoles.some((role) => roleId(role) === id)

/** How much of its colour a tint has over the surface: less by day, where it would hide what stands on it. */
const tintShare: Readonly<Record<Look, number>> = { night: 0.24, day: 0.14 }

/** Where names of colours are looked up: those of a project. */
export type NamedColours = Readonly<Record<string, NamedColour | undefined>>

/** `#rrggbb` of a stored colour in a look. A name that nobody has is black; '' stays ''. */
export function colourIn(colours: NamedColours, look: Look, colour: ColourText): string {
  const { base, tint } = colourParts(colour)
  const plain = base.startsWith('colour:') ? (colours[base]?.[look] ?? '#000000') : base
  return tint && plain ? mixed(colours['colour:surface']?.[look] ?? '#000000', plain, tintShare[look]) : plain
}

/** `share` (0–1) of one colour over another, each channel rounded. */
export function mixed(under: string, over: string, share: number): string {
  const a = channelsOf(under)
  const b = channelsOf(over)
  if (!a || !b) return over
  const channel = (key: 'red' | 'green' | 'blue') => clamp(Math.floor(a[key] + (b[key] - a[key]) * share + 0.5), 0, 255)
  return hexOf(channel('red'), channel('green'), channel('blue'))
}

export const hexOf = (...channels: number[]): string => `#${channels.map((c) => c.toString(16).padStart(2, '0')).join('')}`

/** The colour that a glass of 16 bits shows instead: the nearest below in each channel, spread over the whole range. */
export function shownOnGlass(colour: string): string {
  const { red, green, blue } = expand565(colourToRgb565(colour))
  return hexOf(red, green, blue)
}

/** x to the power 2.4, 0–1: x² times the fifth root of x², by Newton's method (the same bits everywhere). */
function toThe24(x: number): number {
  const square = x * x
  if (square === 0) return 0
  let root = 1
  for (let k = 0; k < 24; k++) root -= (root - square / (root * root * root * root)) / 5
  return square * root
}

/** Relative luminance of `#rrggbb`, 0–1 (WCAG 2.2, from the definition of sRGB). */
export function luminanceOf(colour: string): number {
  const c = channelsOf(colour)
  if (!c) return 0
  return 0.2126 * linearLight(c.red) + 0.7152 * linearLight(c.green) + 0.0722 * linearLight(c.blue)
}

/** The light of a channel of sRGB (IEC 61966-2-1), 0–255, as a share of its brightest. */
export function linearLight(channel: number): number {
  const share = channel / 255
  return share <= 0.04045 ? share / 12.92 : toThe24((share + 0.055) / 1.055)
}

/** Contrast of two colours, 1–21 (WCAG 2.2): 4.5 is read by most, 3 is seen as a shape. */
export function contrastOf(a: string, b: string): number {
  const [one, other] = [luminanceOf(a), luminanceOf(b)]
  return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05)
}
