import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { arithmetic } from './arithmetic.ts'

describe('arithmetic in number fields', () => {
  test.each([
    ['12', 12],
    [' 3*40 + 8 ', 128],
    ['(800-364)/2', 218],
    ['-5', -5],
    ['−5', -5],
    ['2--3', 5],
    ['1/4', 0.25],
    ['1,5', 1.5],
    ['.5*.5', 0.25],
    ['0x10', 16],
    ['2×3', 6],
    ['((((1))))', 1],
  ])('%s is %s', (text, value) => expect(arithmetic(text)).toBe(value))

  test.each(['', 'abc', '1+', '*2', '(1', '1)', '1 2 3 +', '1/0', 'NaN', 'alert(1)', '1e999', '()', '0x', '--', '.'])(
    '%j is none',
    (text) => expect(arithmetic(text)).toBeNull(),
  )

  test('agrees with the engine on sums and products', () => {
    const expression: fc.Arbitrary<string> = fc.letrec<{ e: string }>((tie) => ({
      e: fc.oneof(
        { depthSize: 'small' },
        fc.nat(99).map(String),
        fc.tuple(tie('e'), fc.constantFrom('+', '-', '*'), tie('e')).map(([a, o, b]) => `(${a}${o}${b})`),
      ),
    })).e
    fc.assert(
      fc.property(expression, (text) => {
        expect(arithmetic(text)).toBe(new Function(`return ${text}`)() as number)
      }),
    )
  })
  test('nothing typed throws, however long or deep', () => {
    fc.assert(fc.property(fc.string({ maxLength: 60 }), (text) => void arithmetic(text)))
    expect(arithmetic('('.repeat(100_000))).toBeNull()
  })
})
