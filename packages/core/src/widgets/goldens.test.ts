import { describe, expect, test } from 'vitest'
import { hashOfWords } from '../base/index.ts'
import { lookNames } from '../palette/index.ts'
import { contactSheet, variants } from '../testing/contact-sheets.ts'
import goldens from '../testing/goldens.json' with { type: 'json' }
import { widgetKinds } from './index.ts'

const kept = goldens as Record<string, string>

describe('every kind looks as it was accepted', () => {
  test.each(widgetKinds().map(({ kind }) => kind))('%s', (kind) => {
    for (const look of lookNames) {
      const name = `${kind} by ${look}`
      expect([name, hashOfWords(contactSheet(kind, look).pixels)]).toEqual([name, kept[name]])
    }
  })

  test('every kind has a sheet, and there is none for a kind that is gone', () => {
    const kinds = widgetKinds().map(({ kind }) => kind)
    expect(Object.keys(kept).sort()).toEqual(kinds.flatMap((kind) => lookNames.map((look) => `${kind} by ${look}`)).sort())
    expect(Object.keys(variants).sort()).toEqual([...kinds].sort())
  })
})
