import { describe, expect, test } from 'vitest'
import { apiSentences, assetParams, createSchema, idParams, mostChanges, resultSchema, saveSchema } from './index.ts'

const ok = (schema: { validate(v: unknown): { error?: unknown } }, value: unknown) => schema.validate(value).error === undefined
const change = { changeId: 'change:a', edit: 'set project', args: {} }

describe('what the server takes', () => {
  test.each([
    [{ base: 0, changes: [change] }, true],
    [{ base: -1, changes: [change] }, false],
    [{ base: 0.5, changes: [change] }, false],
    [{ base: 0, changes: [] }, false],
    [{ base: 0, changes: [change, change] }, false],
    [{ base: 0, changes: [{ ...change, changeId: 'page:a' }] }, false],
    [{ base: 0, changes: [{ ...change, args: [] }] }, false],
    [{ base: 0, changes: [{ ...change, edit: 'x'.repeat(61) }] }, false],
    [{ base: 0, changes: [{ ...change, more: 1 }] }, false],
    [{ changes: [change] }, false],
    [{ base: 0, changes: Array.from({ length: mostChanges + 1 }, (_, i) => ({ ...change, changeId: `change:n${i}` })) }, false],
  ])('a save, case %#', (value, right) => expect(ok(saveSchema, value)).toBe(right))

  test.each([
    ['project:3k9f0c2m1x', true],
    ['project:__proto__', true],
    ['project:../../etc', false],
    ['page:3k9f0c2m1x', false],
    ["project:x'; drop table projects", false],
    ['', false],
  ])('an id %j', (id, right) => expect(ok(idParams, { id })).toBe(right))

  test('a new project, an asset, a result', () => {
    expect(ok(createSchema, { name: 'A', width: 320, height: 240, diagonalInches: 3.5 })).toBe(true)
    expect(ok(createSchema, { name: ' ', width: 320, height: 240, diagonalInches: 3.5 })).toBe(false)
    expect(ok(createSchema, { name: 'A', width: 9000, height: 240, diagonalInches: 3.5 })).toBe(false)
    expect(ok(assetParams, { sha: 'a'.repeat(64) })).toBe(true)
    expect(ok(assetParams, { sha: `${'a'.repeat(63)}/` })).toBe(false)
    expect(ok(resultSchema, { exchange: 'exchange:a', revision: 1, passed: true, failedStep: null })).toBe(true)
    expect(ok(resultSchema, { exchange: 'widget:a', revision: 1, passed: true, failedStep: null })).toBe(false)
  })
  test('every problem of the server is a sentence', () => {
    for (const words of Object.values(apiSentences)) expect(words).toMatch(/^[A-Z].*\.$/)
  })
})
