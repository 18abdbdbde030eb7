import { bad, good, type Result } from '../../../base/index.ts'
import { record, whole } from '../../../describe/index.ts'
import { payloadOf, placesOf, type Message, type PlacedBytes } from '../../../frames/index.ts'
import { namedFor, noName } from '../names.ts'
import { faultAt, isFault, linePart, type Ground } from '../part.ts'
import { characters } from './constant.ts'
import { spelledValue, takeSpelt, understood } from './valued.ts'

/** Several names, each with its value: all of them are written, or none. Problem: `frame.pairs` (places, most). */
export const pairs = linePart({
  part: 'pairs',
  label: 'names and values',
  tint: 'payload',
  isOpen: true,
  settings: record({
    between: { label: 'Between name and value', type: characters, default: '=', group: 'Part' },
    separator: { label: 'Between pairs', type: characters, default: ' ', group: 'Part' },
    most: { label: 'Pairs at most', type: whole, default: 16, min: 1, max: 16, group: 'Part' },
  }),
  onlyIn: ['write', 'report'],
  stands: ['name', 'value'],
  separates: ({ separator }) => separator,
  made: ({ between, separator, most }) => `name${between}value${most === 1 ? '' : `${separator}…`}`,
  put: ({ between, separator, most }, message, ground) => {
    const payload = payloadOf(message)
    if (!payload || message.operation === 'message') return noName(message)
    const places = placesOf({ ...message, payload } as PlacedBytes)
    if (places.length > most) return bad('frame.pairs', { places: places.length, most })
    const out: string[] = []
    for (const place of places) {
      const one = pairOf(message, place, ground, [between, separator])
      if (!one.ok) return one
      out.push(one.value.join(between))
    }
    return good(out.join(separator))
  },
  read: ({ between, separator, most }, line, from, into, ground) => {
    const places: PlacedBytes[] = []
    for (let at = from; ;) {
      const behind = line.indexOf(between, at)
      const nameTo = behind < 0 ? ground.until(line, at) : behind
      const wire = line.slice(at, nameTo)
      const named = ground.names.cells.get(wire)
      if (!named) return faultAt('name', at, nameTo, { name: wire })
      if (behind < 0) return faultAt('gap', nameTo, nameTo + between.length, { text: between })
      const valueAt = behind + between.length
      const next = line.indexOf(separator, valueAt)
      const end = ground.until(line, valueAt)
      const spelt = takeSpelt(line, valueAt, next < 0 ? end : Math.min(next, end), ground.spelling)
      if (isFault(spelt)) return spelt
      const read = understood('write', named, spelt, line, ground)
      if (isFault(read)) return read
      places.push({ address: named.cell.address, payload: (read as { payload: readonly number[] }).payload })
      into.named ??= named
      if (places.length > most) return faultAt('left-over', at, line.length)
      at = spelt.to
      if (!line.startsWith(separator, at) || at >= ground.until(line, at)) {
        into.payload = places[0]!.payload
        into.also = places.slice(1)
        return at
      }
      at += separator.length
    }
  },
})

/** Name and value of one place. */
function pairOf(
  message: Message,
  place: PlacedBytes,
  ground: Ground,
  separators: readonly string[],
): Result<readonly [string, string]> {
  const named = namedFor(ground.names, { ...message, ...place } as Message)
  if (!named) return noName({ ...message, ...place } as Message)
  const value = spelledValue(ground, named, place.payload)
  if (!value.ok) return value
  for (const text of separators) {
    if (named.wire.includes(text)) return bad('line.stop-inside', { character: text })
    if (!value.value.startsWith('"') && value.value.includes(text)) return bad('line.stop-inside', { character: text })
  }
  return good([named.wire, value.value])
}
