/** What someone typed into a number field: `12`, `3*40+8`, `(800-364)/2`. Null where it is no arithmetic. */
export function arithmetic(text: string): number | null {
  const source = text.replaceAll(',', '.').replaceAll('−', '-').replaceAll('×', '*').replace(/\s+/g, '')
  let at = 0
  const peek = () => source[at]
  const fail = Symbol('no number')
  function atom(): number {
    if (peek() === '-' || peek() === '+') return source[at++] === '-' ? -atom() : atom()
    if (peek() === '(') {
      at++
      const value = sum()
      if (source[at++] !== ')') throw fail
      return value
    }
    const found = /^(0x[0-9a-f]+|\d+\.?\d*|\.\d+)/i.exec(source.slice(at))
    if (!found) throw fail
    at += found[0].length
    return Number(found[0])
  }
  function product(): number {
    let value = atom()
    while (peek() === '*' || peek() === '/') value = source[at++] === '*' ? value * atom() : value / atom()
    return value
  }
  function sum(): number {
    let value = product()
    while (peek() === '+' || peek() === '-') value = source[at++] === '+' ? value + product() : value - product()
    return value
  }
  try {
    const value = sum()
    return at === source.length && Number.isFinite(value) ? value : null
  } catch (error) {
    if (error === fail || error instanceof RangeError) return null
    throw error
  }
}
