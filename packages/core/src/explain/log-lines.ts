/** A line of a pasted log: its bytes, and what stands before them. */
export interface LogLine {
  bytes: number[]
  /** The word that says whose bytes they are, in capitals: `TX`, `→`; '' where there is none. */
  mark: string
  /** Its time stamp, ms since midnight or since the log began; null where it has none. */
  timeMs: number | null
  /** Characters between its bytes that are no bytes. */
  wrong: string[]
}

const markWords = /^(tx|rx|txd|rxd|in|out|send|sent|recv|received|host|panel|read|write|>>?|<<?|->|<-|=>|<=|→|←)[:>]?$/i

const clock = /(?:^|[^\d:])(\d{1,2}):(\d{2}):(\d{2})(?:[.,](\d{1,6}))?/
const seconds = /(?:^|[\s[(])(\d{1,9}[.,]\d{1,9})(?=[\s\])s:,]|$)/

/** Milliseconds of the first time stamp of a line: `21:47:06.512`, or seconds with a point. */
function timeOf(text: string): number | null {
  const day = clock.exec(text)
  if (day) {
    const [, hours, minutes, secs, part = ''] = day
    return (Number(hours) * 3600 + Number(minutes) * 60 + Number(secs)) * 1000 + Number(`0.${part || 0}`) * 1000
  }
  const plain = seconds.exec(text)
  return plain ? Number(plain[1]!.replace(',', '.')) * 1000 : null
}

/** The bytes of a token: `7E`, `0x7E`, `7E5112` (whole bytes only), `\x7E`; null where it is none. */
function bytesOfToken(token: string): number[] | null {
  const dashed = /^(?:[0-9a-f]{2}-){3,}[0-9a-f]{2}$/i.test(token)
  const bare = dashed ? token.replaceAll('-', '') : token.replace(/^(0x|\$|#)/i, '').replace(/h$/i, '')
  if (!/^(?:[0-9a-f]{2})+$/i.test(bare)) return null
  return Array.from({ length: bare.length / 2 }, (_, i) => parseInt(bare.slice(2 * i, 2 * i + 2), 16))
}

const isByte = (token: string | undefined): boolean => token !== undefined && bytesOfToken(token)?.length === 1

/** A line of a log of lines: its characters, without the time stamp and the mark before them. */
export function charactersOfLine(text: string): { text: string; mark: string; timeMs: number | null } {
  let rest = text
  let mark = ''
  for (;;) {
    const [whole, token] = /^\s*([^\s]+)(?:\s|$)/.exec(rest) ?? ['', '']
    const bare = token!.replaceAll(/[[\](),]/g, '')
    if (token && markWords.test(bare) && !mark) mark = bare
    else if (!token || !/^(\d{1,2}:\d{2}:\d{2}([.,]\d{1,6})?|\d{4}-\d{2}-\d{2}|\d{1,9}[.,]\d{1,9}s?)$/.test(bare)) break
    rest = rest.slice(whole!.length)
  }
  return { text: rest, mark: mark.replace(/[:>]$/, '').toUpperCase(), timeMs: timeOf(text) }
}

/**
 * Bytes of a line of text: the longest run of two-digit hex numbers, or of numbers written together. A time stamp, a line
 * number, a mark and the text column of a dump stand beside it.
 */
export function bytesOfLine(text: string): LogLine {
  // The text column of a dump holds what may look like bytes.
  const shown = text.split(/\|.*\|?\s*$|;/)[0]!
  const tokens = shown
    .replace(/\\x/gi, ' 0x')
    .split(/[\s,{}[\]()"']+/)
    .filter(Boolean)
  const mark = tokens.find((t) => markWords.test(t))
  const runs: { token: string; bytes: number[] }[][] = [[]]
  const wrong: string[] = []
  tokens.forEach((token, i) => {
    const bytes = bytesOfToken(token)
    if (bytes) runs.at(-1)!.push({ token, bytes })
    // A slip of the keys among bytes does not end them.
    else if (/^\w{1,3}$/.test(token) && !markWords.test(token) && isByte(tokens[i - 1]) && isByte(tokens[i + 1]))
      wrong.push(token)
    else runs.push([])
  })
  const size = (run: { bytes: number[] }[]) => run.reduce((sum, { bytes }) => sum + bytes.length, 0)
  let run = runs.reduce((best, next) => (size(next) >= size(best) ? next : best), [])
  // `0010  7E 51 …`: an offset, or a number, before bytes that stand apart.
  const apart = run.filter(({ bytes }) => bytes.length === 1).length
  if (apart > 1) run = run.slice(run.findIndex(({ bytes }) => bytes.length === 1))
  return {
    bytes: run.flatMap(({ bytes }) => bytes),
    mark: (mark ?? '').replace(/[:>]$/, '').toUpperCase(),
    timeMs: timeOf(text),
    wrong,
  }
}

/** Whether a character code is a hex digit, as its value; −1: none. */
const hexOf = (code: number): number =>
  code >= 48 && code <= 57 ? code - 48 : code >= 65 && code <= 70 ? code - 55 : code >= 97 && code <= 102 ? code - 87 : -1

const isGap = (code: number): boolean => code === 32 || code === 9 || code === 44

/**
 * The same as `bytesOfLine` for the plainest lines: time stamps, a mark, and pairs of hex digits to the end. Null: another sort of line.
 * A log of a million lines is read so.
 */
export function plainBytesOfLine(text: string): LogLine | null {
  const bytes: number[] = []
  let mark = ''
  let timeMs: number | null = null
  for (let at = 0; at < text.length;) {
    if (isGap(text.charCodeAt(at))) {
      at++
      continue
    }
    let to = at + 1
    while (to < text.length && !isGap(text.charCodeAt(to))) to++
    const [high, low] = to - at === 2 ? [hexOf(text.charCodeAt(at)), hexOf(text.charCodeAt(at + 1))] : [-1, -1]
    if (high >= 0 && low >= 0) bytes.push(high * 16 + low)
    else if (bytes.length) return null
    else {
      const token = text.slice(at, to)
      if (!mark && markWords.test(token)) mark = token.replace(/[:>]$/, '').toUpperCase()
      else if (timeMs === null && /^[[(]?(\d{1,2}:\d{2}:\d{2}([.,]\d{1,6})?|\d{1,9}[.,]\d{1,9})s?[\])]?$/.test(token))
        timeMs = timeOf(token)
      else return null
    }
    at = to
  }
  return bytes.length ? { bytes, mark, timeMs, wrong: [] } : null
}
