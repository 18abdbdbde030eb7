import Joi from 'joi'
import type { Order } from '../base/index.ts'
import { listOf, number, oneOf, plain, record, text, whole, yesNo, type RawOf } from '../describe/index.ts'
import { systemVariables, systemWords, wordsOf, type MemoryPlan, type PlacedVariable } from '../variables/index.ts'

const address = plain<number>('address', Joi.number().integer())
const pixels = { type: whole, min: 16, max: 2048, unit: 'px', group: 'Glass', essential: true }

/** A pin of the module, and what it can do. */
const pinSettings = record({
  name: { label: 'Name', type: text, default: 'pin', group: 'Pin', essential: true },
  output: { label: 'Output', type: yesNo, default: true, group: 'Pin' },
  input: { label: 'Input', type: yesNo, default: true, group: 'Pin' },
  pwm: { label: 'PWM', type: yesNo, default: false, group: 'Pin' },
  beeper: { label: 'Beeper', type: yesNo, default: false, group: 'Pin', hint: 'drives a connected buzzer' },
  atPowerOn: {
    label: 'At power-on',
    type: oneOf({ low: 'low', high: 'high', 'not driven': 'not driven' }),
    default: 'not driven',
    group: 'Pin',
  },
  mostMa: { label: 'Maximum current', type: whole, default: 0, min: 0, max: 10_000, unit: 'mA', group: 'Pin', zero: 'unknown' },
})

/** The module a project is for. Every limit comes from here. */
export const panelSettings = record({
  width: { label: 'Width', default: 800, hint: 'pixels as it is mounted', ...pixels },
  height: { label: 'Height', default: 480, ...pixels },
  diagonalInches: {
    label: 'Diagonal',
    type: number,
    default: 7,
    min: 0.5,
    max: 40,
    unit: 'inch',
    group: 'Glass',
    essential: true,
  },
  colourBits: {
    label: 'Colour depth',
    type: plain<16 | 18 | 24>('whole', Joi.number().valid(16, 18, 24)),
    default: 16,
    unit: 'bits',
    group: 'Glass',
    hint: '16, 18 or 24; artwork is always drawn in 16',
  },
  darkest: {
    label: 'Minimum readable backlight',
    type: whole,
    default: 5,
    min: 1,
    max: 100,
    unit: '%',
    group: 'Glass',
  },
  touch: {
    label: 'Touch',
    type: oneOf({ resistive: 'resistive', capacitive: 'capacitive', none: 'none' }),
    default: 'resistive',
    group: 'Touch',
  },
  finger: {
    label: 'Operated with',
    type: oneOf({ 'bare finger': 'bare finger', 'gloved finger': 'gloved finger' }),
    default: 'bare finger',
    group: 'Touch',
    hint: 'a glove needs larger targets',
  },
  contactMs: {
    label: 'Debounce time',
    type: whole,
    default: 30,
    min: 0,
    max: 200,
    unit: 'ms',
    group: 'Touch',
    hint: 'shorter contacts are ignored',
  },
  deafMs: {
    label: 'Touch lockout after page change',
    type: whole,
    default: 150,
    min: 0,
    max: 1000,
    unit: 'ms',
    group: 'Touch',
    hint: 'touches within this time are ignored',
  },
  artworkKiB: {
    label: 'Flash for images and fonts',
    type: whole,
    default: 4096,
    min: 0,
    max: 1_048_576,
    unit: 'KiB',
    group: 'Artwork',
  },
  blends: {
    label: 'Alpha blending (8-bit)',
    type: yesNo,
    default: true,
    group: 'Artwork',
  },
  readsRuns: {
    label: 'Decodes run-length encoding',
    type: yesNo,
    default: true,
    group: 'Artwork',
  },
  kerns: {
    label: 'Kerning',
    type: yesNo,
    default: false,
    group: 'Artwork',
    hint: 'moves pairs of characters as their font wants them',
  },
  drawsLetters: {
    label: 'Renders outline fonts',
    type: yesNo,
    default: false,
    group: 'Artwork',
    hint: 'keeps outlines once for all sizes instead of bitmaps in each',
  },
  memoryFrom: {
    label: 'Variable memory: first word',
    type: address,
    default: 0x10,
    min: 0,
    max: 0xffff,
    group: 'Memory',
  },
  memoryTo: {
    label: 'Variable memory: end',
    type: address,
    default: 0xff00,
    min: 0,
    max: 0x10000,
    group: 'Memory',
    hint: 'exclusive: the first word after it',
  },
  ownFrom: {
    label: 'System variables from',
    type: address,
    default: 0xff00,
    min: 0,
    max: 0xfff0,
    group: 'Memory',
    hint: 'a block of reserved words',
  },
  order: {
    label: 'Byte order',
    type: oneOf({ low: 'little-endian', high: 'big-endian' }),
    default: 'low' as Order,
    group: 'Memory',
  },
  storageKiB: {
    label: 'Flash of the module',
    type: whole,
    default: 8192,
    min: 16,
    max: 4_194_304,
    unit: 'KiB',
    group: 'Memory',
  },
  hasClock: { label: 'Real-time clock', type: yesNo, default: true, group: 'Hardware' },
  hasBeeper: { label: 'Buzzer', type: yesNo, default: true, group: 'Hardware' },
  pins: {
    label: 'GPIO pins',
    type: listOf('pins', 'pin', pinSettings, 32),
    default: [],
    group: 'Hardware',
    hint: 'as the manufacturer names them, with the functions of each',
  },
  levels: {
    label: 'UART level',
    type: oneOf({ '3.3 V': '3.3 V', '5 V': '5 V', 'RS-232': 'RS-232', 'RS-485': 'RS-485' }),
    default: '3.3 V',
    group: 'Connection',
    hint: 'other levels need a converter',
  },
  supplyVolts: { label: 'Supply', type: number, default: 5, min: 1, max: 60, unit: 'V', group: 'Connection' },
})

export type PanelProfile = RawOf<typeof panelSettings.fields>

/** As `panelSettings`, with what only holds between two of them. */
export const panelSchema = panelSettings.schema.custom((panel: PanelProfile, helpers) =>
  panel.memoryTo < panel.memoryFrom
    ? helpers.message({ custom: 'the end of memory ({{#label}}.memoryTo) must not lie before its beginning' })
    : panel,
)

export const plainPanel: PanelProfile = panelSettings.defaults

export const memoryPlanOf = (panel: PanelProfile): MemoryPlan => ({
  from: panel.memoryFrom,
  to: panel.memoryTo,
  ownFrom: panel.ownFrom,
  ownTo: Math.min(0x10000, panel.ownFrom + systemWords()),
  order: panel.order,
})

/** Pixels to a millimetre, from the diagonal. */
export const pixelsPerMm = (panel: Pick<PanelProfile, 'width' | 'height' | 'diagonalInches'>): number =>
  Math.sqrt(panel.width * panel.width + panel.height * panel.height) / (panel.diagonalInches * 25.4)

/** Whether a module has what a system variable stands for, and a place for it before the end of memory. */
export function hasSystemVariable(panel: PanelProfile, { needs, offset, holds }: PlacedVariable): boolean {
  if (panel.ownFrom + offset + wordsOf(holds) > 0x10000) return false
  if (needs === 'clock') return panel.hasClock
  if (needs === 'beeper') return panel.hasBeeper
  return needs !== 'touch' || panel.touch !== 'none'
}

/** The system variables of a module: those of what is there. */
export const systemVariablesOf = (panel: PanelProfile): PlacedVariable[] =>
  systemVariables().filter((variable) => hasSystemVariable(panel, variable))

/** From 35 cm a capital of 16 minutes of arc is read (ISO 9241-303), mm. */
export const leastCapitalMm = 1.6
/** A capital letter is so much of the em of most typefaces. */
export const capitalOfEm = 0.7
/** The least side that a finger hits without looking twice, mm: bare, and in a glove (ISO 9241-411 and the trade's own practice). */
export const leastTargetMm = { 'bare finger': 7, 'gloved finger': 11 } as const
