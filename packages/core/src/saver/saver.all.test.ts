import { test } from 'vitest'
import { nothingIsLost } from '../testing/histories.ts'

/** `npm run soak` runs more of them. */
const histories = Number(process.env['SAVER_HISTORIES'] ?? 2000)

test(
  `in ${histories} histories with lost, late, doubled and reordered answers, and windows closed at any step`,
  () => nothingIsLost(histories),
  2_400_000,
)
