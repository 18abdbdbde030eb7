/** Typed change of a number field of several widgets: to be set for all, or to be done to each. Null where it is neither. */
export type Change = { set: number } | { by: (value: number) => number }

/**
 * Reads `120` and `=120` as a value; `+10`, `*2`, `/2` as what is done to each value there is. `-10` takes away where there are
 * several, since one alone may well be set to a number below zero.
 */
export function changeOf(text: string, several: boolean): Change | null {
  const source = text.trim().replaceAll('−', '-').replaceAll('×', '*')
  const sign = source[0] ?? ''
  const isBy = sign === '+' || sign === '*' || sign === '/' || (sign === '-' && several)
  const amount = arithmetic(isBy || sign === '=' ? source.slice(1) : source)
  if (amount === null) return null
  if (!isBy) return { set: amount }
  if (sign === '/' && amount === 0) return null
  return {
    by: (value) =>
      sign === '+' ? value + amount : sign === '-' ? value - amount : sign === '*' ? value * amount : value / amount,
  }
}

/** Value of the text in a number field: `12`, `3*40+8`, `(800-364)/2`. Null where it is no arithmetic. */
export function arithmetic(text: string): number | null {
  const source = text.replaceAll(',', '.').replaceAll('−', '-').replaceAll('×', '*').replace(/\s+/g, '')
  let at = 0
  const peek = () => source[at]
  const fail = Symbol('not a number')
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
