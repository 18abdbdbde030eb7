import { bytesToWords, type Order } from '../base/index.ts'
import type { Message } from '../frames/index.ts'
import { orderOf, type Project, type Variable } from '../project/index.ts'
import { decodeValue, formatAddress, formatValue, isInRange, ownWords, wordsOf, type Holds } from '../variables/index.ts'

/** A message in words: `write`, `dome_target`, `231.0 °`. */
export interface Said {
  what: string
  name: string
  value: string
  /** False where the value is none the variable is meant to hold. */
  inRange: boolean
  /** Id of the variable or widget, where the project has one. */
  id: string | null
}

interface Place {
  id: string
  name: string
  holds: Holds
  order: Order
  offset: number
}

const indexes = new WeakMap<object, Map<number, Variable>>()

function variableAt(project: Project, address: number): Place | null {
  let index = indexes.get(project.variables)
  if (!index) {
    index = new Map()
    for (const v of Object.values(project.variables)) for (let i = 0; i < wordsOf(v.holds); i++) index.set(v.address + i, v)
    indexes.set(project.variables, index)
  }
  const found = index.get(address)
  if (found)
    return {
      id: found.id,
      name: found.name,
      holds: found.holds,
      order: orderOf(project.panel, found),
      offset: address - found.address,
    }
  const own = ownWords.find(
    (w) => address >= project.panel.ownFrom + w.offset && address < project.panel.ownFrom + w.offset + wordsOf(w.holds),
  )
  return own
    ? {
        id: own.id,
        name: own.name,
        holds: own.holds,
        order: project.panel.order,
        offset: address - project.panel.ownFrom - own.offset,
      }
    : null
}

const hex4 = (n: number): string => `0x${n.toString(16).toUpperCase().padStart(4, '0')}`

export function sayMessage(project: Project, message: Message): Said {
  const { operation, address } = message
  if (operation === 'event') {
    const widget = Object.values(project.widgets).find((w) => w.number === address)
    return {
      what: operation,
      name: widget?.name ?? `widget ${address}`,
      value: message.what,
      inRange: true,
      id: widget?.id ?? null,
    }
  }
  if (operation === 'message')
    return { what: operation, name: `message ${address}`, value: `${message.payload.length} bytes`, inRange: true, id: null }
  const place = variableAt(project, address)
  const name = place ? place.name + (place.offset ? ` + ${place.offset}` : '') : formatAddress(address)
  const said = { what: operation as string, name, id: place?.id ?? null, inRange: true }
  switch (operation) {
    case 'ask':
      return { ...said, value: message.words === (place ? wordsOf(place.holds) : -1) ? '' : `${message.words} words` }
    case 'set bits':
      return { ...said, value: `mask ${hex4(message.mask)} = ${hex4(message.bits & message.mask)}` }
    case 'done':
      return { ...said, value: '' }
    case 'refused':
      return { ...said, value: message.reason }
    default:
      return { ...said, ...valueOf(project, place, message.payload) }
  }
}

function valueOf(project: Project, place: Place | null, payload: readonly number[]): { value: string; inRange: boolean } {
  const words = bytesToWords(payload, project.panel.order)
  if (place && place.offset === 0 && payload.length === wordsOf(place.holds) * 2) {
    const value = decodeValue(place.holds, words, place.order)
    return { value: formatValue(place.holds, value), inRange: isInRange(place.holds, value) }
  }
  return { value: Array.from(words, hex4).join(' '), inRange: true }
}

/** `write dome_target = 231.0 °` */
export const sentenceOf = ({ what, name, value }: Said): string => `${what} ${name}${value ? ` = ${value}` : ''}`
