/** The settings of the line and of the talk over it. Both sides are built from this one record. */
export interface LinkSettings {
  /** Bits a second. */
  baud: number
  parity: 'none' | 'even' | 'odd'
  stopBits: 1 | 2
  /** When the panel answers writes. */
  answers: 'never' | 'on refusal' | 'always'
  /** Whether a report or event waits for done, how long, and how often it is sent in all. */
  confirm: boolean
  confirmTimeoutMs: number
  tries: number
  /** From the last byte of a frame to the first of the panel's answer. */
  latencyMs: number
  /** The host counts as gone when nothing was heard from it for so long. */
  aliveMs: number
}

export const plainLink: LinkSettings = {
  baud: 19_200,
  parity: 'none',
  stopBits: 1,
  answers: 'always',
  confirm: true,
  confirmTimeoutMs: 120,
  tries: 3,
  latencyMs: 4,
  aliveMs: 3000,
}

/** Start, eight data bits, parity, stop. */
export const bitsPerByte = (link: LinkSettings): number => 1 + 8 + (link.parity === 'none' ? 0 : 1) + link.stopBits

/** When byte k (1 = the first) of a burst that begins at `fromUs` ends: ceil(from + k · bits · 10⁶ / baud) µs. */
export const byteEndUs = (link: LinkSettings, fromUs: number, k: number): number =>
  Math.ceil(fromUs + (k * bitsPerByte(link) * 1_000_000) / link.baud)

/** `19 200 Bd 8N1` */
export const linkInWords = (link: LinkSettings): string =>
  `${String(link.baud).replace(/\B(?=(\d{3})+$)/g, ' ')} Bd 8${link.parity === 'none' ? 'N' : link.parity === 'even' ? 'E' : 'O'}${link.stopBits}`

export const usualBaudRates: readonly number[] = [1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200, 230400, 460800, 921600]
