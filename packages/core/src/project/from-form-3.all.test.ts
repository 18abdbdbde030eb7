import { test } from 'vitest'
import { comesOver } from '../testing/form-3.ts'

test('2 000 edits that wait, and their undo, are the same under form 4', () => comesOver(2000, 50), 2_400_000)
