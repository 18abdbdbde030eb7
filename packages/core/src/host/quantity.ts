import { clamp, wrapInto, type Random } from '../base/index.ts'
import type { HostBuild } from '../compile/index.ts'
import { isNumber, type Cell } from '../variables/index.ts'

/** A value of the host that moves by itself. `value` is in shown units, exact; what is sent is rounded by its variable. */
export interface Moving {
  spec: HostBuild['quantities'][number]
  value: number
  lastUs: number
  /** Of a ramp that goes back: −1 while it does. */
  way: 1 | -1
  /** Of a list: when it began. */
  sinceUs: number
  lastSent: number | null
}

const numberOf = (value: unknown): number => (typeof value === 'number' ? value : 0)

const listOf = (text: unknown): number[] =>
  String(text)
    .split(',')
    .map((part) => Number(part.trim()))
    .filter((n) => Number.isFinite(n))

export function startMoving(spec: HostBuild['quantities'][number], nowUs: number): Moving {
  const { kind, settings: s } = spec
  const value =
    kind === 'constant' ? s['value'] : kind === 'ramp' ? s['from'] : kind === 'list' ? (listOf(s['values'])[0] ?? 0) : s['start']
  return { spec, value: numberOf(value), lastUs: nowUs, way: 1, sinceUs: nowUs, lastSent: null }
}

/** Brings a value up to `nowUs`. `known` is the host's view of another variable. */
export function move(moving: Moving, nowUs: number, random: Random, known: (cell: Cell) => number | null): void {
  const seconds = (nowUs - moving.lastUs) / 1_000_000
  const s = moving.spec.settings
  moving.lastUs = nowUs
  switch (moving.spec.kind) {
    case 'ramp':
      return ramp(moving, seconds)
    case 'approach': {
      const target = s['target'] ? known(s['target'] as Cell) : null
      if (target !== null)
        moving.value = approach(moving.value, target, numberOf(s['perSecond']) * seconds, numberOf(s['circle']))
      return
    }
    case 'list': {
      const list = listOf(s['values'])
      if (list.length) moving.value = list[Math.floor((nowUs - moving.sinceUs) / (numberOf(s['stepMs']) * 1000)) % list.length]!
      return
    }
    case 'walk': {
      const step = (random.next() * 2 - 1) * numberOf(s['step'])
      moving.value = clamp(moving.value + step, numberOf(s['low']), numberOf(s['high']))
    }
  }
}

function ramp(moving: Moving, seconds: number): void {
  const s = moving.spec.settings
  const [from, to, rate] = [numberOf(s['from']), numberOf(s['to']), numberOf(s['perSecond'])]
  const [low, high] = from <= to ? [from, to] : [to, from]
  const next = moving.value + moving.way * (from <= to ? 1 : -1) * rate * seconds
  if (next >= low && next <= high) moving.value = next
  else if (s['atEnd'] === 'stop') moving.value = clamp(next, low, high)
  else if (s['atEnd'] === 'back') {
    moving.way = moving.way === 1 ? -1 : 1
    moving.value = clamp(next, low, high)
  } else moving.value = high > low ? wrapInto(next, low, high - low) : low
}

/** `most` closer to the target; on a circle the short way round, and the result in [0, circle). */
export function approach(value: number, target: number, most: number, circle: number): number {
  const straight = target - value
  const away = circle > 0 ? wrapInto(straight, -circle / 2, circle) : straight
  if (Math.abs(away) <= most) return target
  const next = value + (away > 0 ? most : -most)
  return circle > 0 ? wrapInto(next, 0, circle) : next
}

/** What of the exact value fits the variable: inside its range. */
export function sendable(cell: Cell, value: number): number {
  return isNumber(cell.holds) ? clamp(value, cell.holds.min, cell.holds.max) : Math.round(value)
}
