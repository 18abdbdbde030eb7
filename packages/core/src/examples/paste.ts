import { fromHex, good, hexByte, toHex, type Result } from '../base/index.ts'

/** A line of what was pasted: a frame, and what it means. */
export interface Pasted {
  frame: string
  means: string
}

const hexRun = /^\s*((?:0x)?[0-9a-f]{2}(?:[\s,]+(?:0x)?[0-9a-f]{2})+)[\s,]*/i
const hexAtEnd = /[\s:|;=]\s*((?:0x)?[0-9a-f]{2}(?:[\s,]+(?:0x)?[0-9a-f]{2})+)\s*$/i
const divider = /\t+|\s+[|;]\s+|\s{3,}/

/**
 * Frames with their meanings, one a line: `3C C4 05 … | write 20 to 0x1200`, `SET level 20{0D} | write 20 to level`; either may come
 * first where the other is hex. A line without a meaning is a frame that means nothing yet.
 */
export const readPasted = (text: string): Pasted[] =>
  text
    .split(/\r?\n/)
    .filter((line) => line.trim())
    .map(pastedOf)

/** A longer line is no frame with its meaning. */
const longestLine = 8_000

function pastedOf(line: string): Pasted {
  if (line.length > longestLine) return { frame: line, means: '' }
  const first = hexRun.exec(line)
  if (first)
    return {
      frame: first[1]!.trim(),
      means: line
        .slice(first[0].length)
        .replace(/^[\s:|;=→-]+/, '')
        .trim(),
    }
  const cut = divider.exec(line)
  const last = hexAtEnd.exec(line)
  if (last && (!cut || last.index >= cut.index))
    return {
      frame: last[1]!.trim(),
      means: line
        .slice(0, last.index)
        .replace(/[\s:|;=→-]+$/, '')
        .trim(),
    }
  return cut
    ? { frame: line.slice(0, cut.index).trim(), means: line.slice(cut.index + cut[0].length).trim() }
    : { frame: line.trim(), means: '' }
}

/** Marks of bytes that cannot be seen: `{0D}`, `\r`, `\n`, `\t`, `\x1E`. */
const marks = /\{([0-9A-Fa-f]{2})\}|\\x([0-9A-Fa-f]{2})|\\([rnt])/g
const escapes: Readonly<Record<string, string>> = { r: '\r', n: '\n', t: '\t' }

/** The bytes of a frame as it is typed: hex, or else characters with marks for what cannot be seen. Problems as of `fromHex`. */
export function frameBytes(text: string): Result<Uint8Array> {
  if (/^\s*(0x)?[0-9a-f]{2}([\s,]+(0x)?[0-9a-f]{2})*\s*$/i.test(text)) return fromHex(text)
  const line = text.replaceAll(marks, (_, braced?: string, hex?: string, letter?: string) =>
    letter ? escapes[letter]! : String.fromCharCode(parseInt(braced ?? hex!, 16)),
  )
  return line.trim() ? good(Uint8Array.from(line, (c) => c.charCodeAt(0) & 0xff)) : fromHex(text)
}

/** A frame as it is typed: characters where most of it can be seen, else hex. `frameBytes` reads it back. */
export function frameText(bytes: ArrayLike<number>): string {
  const all = Array.from(bytes)
  const seen = all.filter((byte) => byte >= 0x20 && byte < 0x7f).length
  const isText = all.length > 4 && all.length - seen <= 6 && seen * 4 > all.length * 3
  const text = all.map((byte) => (byte >= 0x20 && byte < 0x7f ? String.fromCharCode(byte) : `{${hexByte(byte)}}`)).join('')
  return isText && !/[{}\\]/.test(text.replaceAll(/\{[0-9A-F]{2}\}/g, '')) ? text : toHex(all)
}
