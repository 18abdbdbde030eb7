import Joi from 'joi'
import { bad, good, type Problem } from '../../base/index.ts'
import { oneOf, plain, record, whole } from '../../describe/index.ts'
import type { PlacedBytes } from '../messages.ts'
import { mostIn, putWire, takeWire, type WireNumber } from '../number.ts'
import { partOf, type Packing } from '../part.ts'
import { swapped } from './digits.ts'

const group = 'Part'
const addressBytes = plain<number>('whole', Joi.number().integer().min(1).max(4))
const valueBytes = plain<2 | 4 | 6 | 8>('whole', Joi.number().valid(2, 4, 6, 8))

interface PairSettings {
  addressSize: number
  order: 'low' | 'high'
  unit: 'words' | 'bytes'
  value: number
  most: number
  counted: 'no' | 'first'
}

/**
 * Several addresses, each with its value behind it: all of them are written, or none. Problems: `frame.pairs` (places, most),
 * `frame.pair-size` (bytes, wants), `frame.address` (address, most).
 */
export const pairs = partOf({
  part: 'pairs',
  label: 'addresses and values',
  settings: record({
    addressSize: { label: 'Bytes of an address', type: addressBytes, default: 2, min: 1, max: 4, group },
    order: {
      label: 'Byte order of addresses',
      type: oneOf({ low: 'little-endian', high: 'big-endian' }),
      default: 'high',
      group,
    },
    unit: {
      label: 'Addresses counted in',
      type: oneOf({ words: 'words', bytes: 'bytes (two to a word)' }),
      default: 'words',
      group,
    },
    value: { label: 'Bytes of a value', type: valueBytes, default: 2, min: 2, max: 8, group },
    most: { label: 'Pairs at most', type: whole, default: 16, min: 1, max: 16, group },
    counted: {
      label: 'Number of pairs',
      type: oneOf({ no: 'not said', first: 'in a byte before them' }),
      default: 'no',
      group,
    },
  }),
  onlyIn: ['write', 'report'],
  tells: 'payload',
  stands: ['address', 'payload'],
  spans: 'payload',
  packs: (part, _memory, swaps) => packing(part as PairSettings, swaps),
  size: () => 0,
  made: ({ addressSize, value, most, counted }) =>
    `${counted === 'first' ? 'count, ' : ''}${most === 1 ? '' : `1–${most} × `}${addressSize} + ${value} bytes`,
})

function packing({ addressSize: size, order, unit, value: bytes, most, counted }: PairSettings, swaps: boolean): Packing {
  const number: WireNumber = { size, order, spelling: 'binary' }
  const scale = unit === 'bytes' ? 2 : 1
  const mostAddress = Math.floor(mostIn(number) / scale)
  const head = counted === 'first' ? 1 : 0
  const each = size + bytes
  const wrong = ({ address, payload }: PlacedBytes): Problem | null =>
    payload.length !== bytes
      ? { code: 'frame.pair-size', facts: { bytes: payload.length, wants: bytes } }
      : address > mostAddress
        ? { code: 'frame.address', facts: { address, most: mostAddress } }
        : null
  const pairsIn = (wire: number): number => (wire - head) / each
  const isWhole = (count: number): boolean => Number.isInteger(count) && count >= 1 && count <= most
  return {
    bytesPerByte: each / bytes,
    pack({ address, payload, also }) {
      const places = [{ address, payload }, ...(also ?? [])]
      if (places.length > most) return bad('frame.pairs', { places: places.length, most })
      const out = new Uint8Array(head + places.length * each)
      if (head) out[0] = places.length
      for (const [k, place] of places.entries()) {
        const problem = wrong(place)
        if (problem) return { ok: false, problem }
        putWire(out, head + k * each, number, place.address * scale)
        out.set(swapped(place.payload, swaps), head + k * each + size)
      }
      return good([...out])
    },
    unpack(wire) {
      const count = pairsIn(wire.length)
      if (!isWhole(count) || (head && wire[0] !== count)) return 'length'
      const places: PlacedBytes[] = []
      for (let at = head; at < wire.length; at += each) {
        const address = takeWire(wire, at, number)
        if (address % scale) return 'half'
        places.push({ address: address / scale, payload: swapped([...wire.subarray(at + size, at + each)], swaps) })
      }
      const [first, ...also] = places
      return { ...first!, ...(also.length ? { also } : {}) }
    },
    pieces(wire) {
      const out = head ? [{ kind: 'length', from: 0, to: 1 }] : []
      for (let at = head; at < wire; at += each) {
        out.push({ kind: 'address', from: at, to: Math.min(wire, at + size) })
        if (at + size < wire) out.push({ kind: 'payload', from: at + size, to: Math.min(wire, at + each) })
      }
      return out
    },
    some(wire, any) {
      const count = pairsIn(wire)
      if (!isWhole(count)) return null
      const [first, ...also] = Array.from({ length: count }, () => ({
        address: any(Math.min(mostAddress, 0xffff)),
        payload: Array.from({ length: bytes }, () => any(255)),
      }))
      return { ...first!, ...(also.length ? { also } : {}) }
    },
  }
}
