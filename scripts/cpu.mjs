// The CPU time of all that a run starts, however deep and whoever it belongs to in the end: each process that has a mark in its
// environment, or whose parent is counted, is looked at twice a second, and what it had worked when it was last seen is counted
// (proc(5): utime, stime).
/* global setInterval, clearInterval */
import { randomBytes } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'

const markName = 'MOTH_LAMP_RUN'
/** `/proc` counts in hundredths of a second on every Linux (USER_HZ). */
const ticksASecond = 100

const read = (path) => {
  try {
    return readFileSync(path, 'latin1')
  } catch {
    return ''
  }
}

/** Begins to count; `seconds()` tells how much it has been so far. Null where the system has no `/proc`. */
export function countCpu() {
  if (!read('/proc/self/stat')) return null
  const mark = randomBytes(8).toString('hex')
  process.env[markName] = mark
  /** Chromium writes over its environment, and the server gives none to who works for it: their parents tell. */
  const ours = new Set([String(process.pid)])
  /** By process id and start time, since ids are given again: the ticks of it, or null where it is nobody of ours. */
  const seen = new Map()
  const isOurs = (pid, parent) => ours.has(parent) || read(`/proc/${pid}/environ`).includes(`${markName}=${mark}`)
  const look = () => {
    for (const pid of readdirSync('/proc')) {
      if (!/^\d+$/.test(pid) || Number(pid) === process.pid) continue
      const stat = read(`/proc/${pid}/stat`)
      if (!stat) continue
      // The name of the program, in brackets, may hold anything; after it the state comes first.
      const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
      const key = `${pid} ${fields[19]}`
      if (!seen.has(key)) {
        const mine = isOurs(pid, fields[1])
        seen.set(key, mine ? 0 : null)
        if (mine) ours.add(pid)
      }
      if (seen.get(key) !== null) seen.set(key, Number(fields[11]) + Number(fields[12]))
    }
  }
  const timer = setInterval(look, 500)
  timer.unref()
  return {
    look,
    seconds: () => [...seen.values()].reduce((sum, ticks) => sum + (ticks ?? 0), 0) / ticksASecond,
    end: () => clearInterval(timer),
  }
}
