import { describe, expect, test } from 'vitest'
import { edits } from '../project/index.ts'
import { dirtyIsFull, findingsMend, narrowedIsWhole, patchesAreSound, warmIsCold } from './laws.ts'

describe('laws over all edits, seeded', () => {
  test('patches name ids, apply, are undone by their inverse, the document stays valid, and every edit is tried', () => {
    const { tried } = patchesAreSound(1500)
    expect([...edits.keys()].filter((name) => !tried.has(name))).toEqual([])
  })
  test('narrowed, an edit does what it did whole', () => narrowedIsWhole(700))
  test('a compiler with a memory gives what one without gives', () => warmIsCold(260))
  test('every finding has its words, and its mend passes the gate and takes it away', () => findingsMend(6))
})

test('after anything at all, the dirty rectangles give what a full repaint gives', () => dirtyIsFull(120))
