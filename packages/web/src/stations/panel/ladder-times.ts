import { byteEndUs, type LinkSettings } from '@moth-lamp/core/frames'
import { reactionSettings } from '@moth-lamp/core/scripts'

/** Times of a report and its done, ms from the press; and of the tries when no done comes. */
export interface LadderTimes {
  /** The report is over. */
  report: number
  /** The host answers, and its done is over. */
  answered: number
  settled: number
  /** When each of the first eight tries begins. */
  tries: number[]
  givesUp: number
}

const mostTries = 8

/** The times of a report of so many bytes and its done, where the host takes as long as it does by itself. */
export function ladderTimes(link: LinkSettings, reportBytes: number, doneBytes: number): LadderTimes {
  const report = byteEndUs(link, 0, reportBytes) / 1000
  const answered = report + reactionSettings.defaults.answerAfterMs
  const everyMs = report + link.confirmTimeoutMs
  return {
    report,
    answered,
    settled: answered + byteEndUs(link, 0, doneBytes) / 1000,
    tries: Array.from({ length: Math.min(link.tries, mostTries) }, (_, n) => n * everyMs),
    givesUp: link.tries * everyMs,
  }
}

/** Tries that have room for their number and time: all of a few, else the last alone; the first is the report itself. */
export const toldTry = (times: LadderTimes, n: number): boolean =>
  n > 0 && (times.tries.length < 5 || n === times.tries.length - 1)
