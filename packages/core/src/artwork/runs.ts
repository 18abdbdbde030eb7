/** A run or a stretch of pixels is never longer. */
const mostRun = 129
const mostStretch = 128

/**
 * Rows of equal values as runs. `each` hears a run (`count` times the value at `from`, 2 to 129) or a stretch (`count` values as
 * they are from `from` on, 1 to 128). No run goes over the end of a row, so that any row can be begun with.
 */
function eachRun(values: ArrayLike<number>, width: number, each: (isRun: boolean, from: number, count: number) => void): void {
  for (let row = 0; row < values.length; row += width) {
    const end = Math.min(values.length, row + width)
    let from = row
    for (let at = row; at < end;) {
      let next = at + 1
      while (next < end && next - at < mostRun && values[next] === values[at]) next++
      // Two alike inside a stretch cost no more than a run by itself.
      if (next - at < (from < at ? 3 : 2)) {
        at = next
        while (at - from >= mostStretch) {
          each(false, from, mostStretch)
          from += mostStretch
        }
        continue
      }
      if (from < at) each(false, from, at - from)
      each(true, at, next - at)
      from = at = next
    }
    if (from < end) each(false, from, end - from)
  }
}

/** Bytes that pixels of `size` bytes each take in runs. */
export function runBytes(values: ArrayLike<number>, width: number, size: 1 | 2): number {
  let bytes = 0
  eachRun(values, width, (isRun, _from, count) => (bytes += 1 + size * (isRun ? 1 : count)))
  return bytes
}

/**
 * Pixels in runs: a byte n, then one value that stands n − 126 times (n from 128 on), or n + 1 values as they are (n to 127). Values
 * of two bytes: the high one first.
 */
export function packRuns(values: ArrayLike<number>, width: number, size: 1 | 2): Uint8Array {
  const out = new Uint8Array(runBytes(values, width, size))
  let at = 0
  const put = (value: number) => {
    if (size === 2) out[at++] = value >> 8
    out[at++] = value & 0xff
  }
  eachRun(values, width, (isRun, from, count) => {
    out[at++] = isRun ? count + 126 : count - 1
    for (let k = 0; k < (isRun ? 1 : count); k++) put(values[from + k]!)
  })
  return out
}

/** Values that `packRuns` packed: `count` values. Bytes that are lacking read as 0. */
export function unpackRuns(bytes: Uint8Array, count: number, size: 1 | 2): Uint16Array {
  const out = new Uint16Array(count)
  let at = 0
  const take = () => (size === 2 ? ((bytes[at++] ?? 0) << 8) | (bytes[at++] ?? 0) : (bytes[at++] ?? 0))
  for (let i = 0; i < count;) {
    const n = bytes[at++] ?? 0
    if (n >= 128) {
      const value = take()
      for (let k = 0; k < n - 126 && i < count; k++) out[i++] = value
    } else for (let k = 0; k <= n && i < count; k++) out[i++] = take()
  }
  return out
}
