/**
 * Arithmetic that gives the same bits in every JavaScript engine: only + − × ÷, comparison, floor and sqrt, which
 * IEEE 754 defines exactly. Angles are in degrees, 0 = east, counter-clockwise positive, as in mathematics.
 */

/** Ten to a whole power −15…15, exact for powers ≥ 0 and correctly rounded for the others. */
export const tenTo = (power: number): number => (power < 0 ? 1 / POWERS[-power]! : POWERS[power]!)
const POWERS = [1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15]

/**
 * Rounds half away from zero; what rounds to zero has no sign. A relative hair (2⁻⁴⁸) is added first, so that a
 * decimal half that binary cannot hold (0.15 / 0.1 = 1.4999999999999998) still counts as the half it was meant to be.
 */
export function roundHalfAway(value: number): number {
  const size = Math.abs(value)
  // A whole number stays whole: beyond 2⁴⁷ the hair would be half of one.
  if (Number.isInteger(size)) return value + 0
  const whole = Math.floor(size * (1 + HAIR) + 0.5)
  return whole === 0 ? 0 : value < 0 ? -whole : whole
}
const HAIR = 1 / 281474976710656

export const clamp = (value: number, low: number, high: number): number => (value < low ? low : value > high ? high : value)

/** `value` in [low, low + span): what an angle or a wrapping counter comes back to. */
export function wrapInto(value: number, low: number, span: number): number {
  const into = (value - low) % span
  return low + (into < 0 ? into + span : into) + 0
}

/** Sine of an angle in degrees: quadrant reduction, then the Taylor series to x²¹ (error below 1e-15). */
export function sine(degrees: number): number {
  const turn = wrapInto(degrees, 0, 360)
  const half = turn >= 180 ? turn - 180 : turn
  const quarter = half > 90 ? 180 - half : half
  const x = quarter * (3.141592653589793 / 180)
  const xx = x * x
  let term = x
  let sum = x
  for (let k = 1; k <= 10; k++) {
    term *= -xx / (2 * k * (2 * k + 1))
    sum += term
  }
  return turn >= 180 ? -sum : sum
}

/** Cosine of an angle in degrees. */
export const cosine = (degrees: number): number => sine(degrees + 90)
