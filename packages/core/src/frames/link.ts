import { oneOf, plain, record, whole, yesNo, type RawOf } from '../describe/index.ts'
import Joi from 'joi'

const group = 'Line'
const talk = 'Talk'

/** The settings of the line and of the talk over it. Both sides are built from this one record. */
export const linkSettings = record({
  baud: { label: 'Baud rate', type: whole, default: 19_200, min: 300, max: 4_000_000, unit: 'Bd', group, essential: true },
  parity: { label: 'Parity', type: oneOf({ none: 'none', even: 'even', odd: 'odd' }), default: 'none', group },
  stopBits: { label: 'Stop bits', type: plain<1 | 2>('whole', Joi.number().valid(1, 2)), default: 1, group },
  /** When the panel answers writes. */
  answers: {
    label: 'Panel acknowledges writes',
    type: oneOf({ never: 'never', 'on refusal': 'errors only', always: 'always' }),
    default: 'always',
    group: talk,
  },
  /** Whether a report or event waits for done, how long, and how often it is sent in all. */
  confirm: { label: 'Reports wait for ACK', type: yesNo, default: true, group: talk },
  confirmTimeoutMs: { label: 'ACK timeout', type: whole, default: 120, min: 1, max: 60_000, unit: 'ms', group: talk },
  tries: { label: 'Attempts', type: whole, default: 3, min: 1, max: 20, group: talk },
  /** From the last byte of a frame to the first of the panel's answer. */
  latencyMs: { label: 'Panel response time', type: whole, default: 4, min: 0, max: 5_000, unit: 'ms', group: talk },
  /** The host counts as gone when nothing was heard from it for so long. */
  aliveMs: { label: 'Host timeout', type: whole, default: 3000, min: 10, max: 3_600_000, unit: 'ms', group: talk },
})

export type LinkSettings = RawOf<typeof linkSettings.fields>
export const plainLink: LinkSettings = linkSettings.defaults

/** Start, eight data bits, parity, stop. */
export const bitsPerByte = (link: LinkSettings): number => 1 + 8 + (link.parity === 'none' ? 0 : 1) + link.stopBits

/** How long so many bytes are on the line, one right behind the other, µs; not rounded. */
export const bytesUs = (link: LinkSettings, bytes: number): number => (bytes * bitsPerByte(link) * 1_000_000) / link.baud

/** When byte k (1 = the first) of a burst that begins at `fromUs` ends: ceil(from + k · bits · 10⁶ / baud) µs. */
export const byteEndUs = (link: LinkSettings, fromUs: number, k: number): number => Math.ceil(fromUs + bytesUs(link, k))

/** `19 200 Bd 8N1` */
export const linkInWords = (link: LinkSettings): string =>
  `${String(link.baud).replace(/\B(?=(\d{3})+$)/g, ' ')} Bd 8${link.parity === 'none' ? 'N' : link.parity === 'even' ? 'E' : 'O'}${link.stopBits}`

export const usualBaudRates: readonly number[] = [1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200, 230400, 460800, 921600]
