import { clamp, wrapInto, type Random } from '../base/index.ts'
import type { HostBuild } from '../compile/index.ts'
import type { CompiledQuantity } from '../scripts/index.ts'
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

const listOf = (text: string): number[] =>
  text
    .split(',')
    .map((part) => Number(part.trim()))
    .filter((n) => Number.isFinite(n))

function startOf(spec: CompiledQuantity): number {
  switch (spec.kind) {
    case 'constant':
      return spec.settings.value
    case 'ramp':
      return spec.settings.from
    case 'list':
      return listOf(spec.settings.values)[0] ?? 0
    default:
      return spec.settings.start
  }
}

export function startMoving(spec: HostBuild['quantities'][number], nowUs: number): Moving {
  return { spec, value: startOf(spec), lastUs: nowUs, way: 1, sinceUs: nowUs, lastSent: null }
}

/** It has stood until `nowUs`: what would have passed has not. */
export function rest(moving: Moving, nowUs: number): void {
  moving.sinceUs += nowUs - moving.lastUs
  moving.lastUs = nowUs
}

/** Brings a value up to `nowUs`. `known` is the host's view of another variable. */
export function move(moving: Moving, nowUs: number, random: Random, known: (cell: Cell) => number | null): void {
  const seconds = (nowUs - moving.lastUs) / 1_000_000
  const { spec } = moving
  moving.lastUs = nowUs
  switch (spec.kind) {
    case 'ramp':
      return ramp(moving, spec.settings, seconds)
    case 'approach': {
      const { target, perSecond, circle } = spec.settings
      const to = target ? known(target) : null
      if (to !== null) moving.value = approach(moving.value, to, perSecond * seconds, circle)
      return
    }
    case 'list': {
      const list = listOf(spec.settings.values)
      if (list.length) moving.value = list[Math.floor((nowUs - moving.sinceUs) / (spec.settings.stepMs * 1000)) % list.length]!
      return
    }
    case 'walk': {
      const { step, low, high } = spec.settings
      moving.value = clamp(moving.value + (random.next() * 2 - 1) * step, low, high)
    }
  }
}

type Ramp = (CompiledQuantity & { kind: 'ramp' })['settings']

function ramp(moving: Moving, { from, to, perSecond, atEnd }: Ramp, seconds: number): void {
  const [low, high] = from <= to ? [from, to] : [to, from]
  const next = moving.value + moving.way * (from <= to ? 1 : -1) * perSecond * seconds
  if (next >= low && next <= high) moving.value = next
  else if (atEnd === 'stop') moving.value = clamp(next, low, high)
  else if (atEnd === 'back') {
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

/** The exact value, limited to the range of the variable. */
export function sendable(cell: Cell, value: number): number {
  return isNumber(cell.holds) ? clamp(value, cell.holds.min, cell.holds.max) : Math.round(value)
}
