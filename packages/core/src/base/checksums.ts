import { takeNumber, type Order } from './bytes.ts'

/**
 * Checksums that serial frames end with. The CRC parameters and check values are those of the public catalogue of
 * parametrised CRC algorithms: the check value is the result over the nine ASCII bytes "123456789".
 */
export interface ChecksumAlgorithm {
  /** Bytes on the wire. */
  size: 1 | 2 | 4
  check: number
  label: string
}

/** A CRC by its parameters (R. Williams, A painless guide to CRC error detection algorithms, 1993, chapter 15). */
export interface CrcModel {
  width: 8 | 16 | 32
  polynomial: number
  start: number
  /** Input and output reflected: least significant bit first. */
  reflected: boolean
  finalXor: number
}

const crcModels = {
  'crc-8': { width: 8, polynomial: 0x07, start: 0, reflected: false, finalXor: 0 },
  'crc-8-maxim': { width: 8, polynomial: 0x31, start: 0, reflected: true, finalXor: 0 },
  'crc-16-arc': { width: 16, polynomial: 0x8005, start: 0, reflected: true, finalXor: 0 },
  'crc-16-modbus': { width: 16, polynomial: 0x8005, start: 0xffff, reflected: true, finalXor: 0 },
  'crc-16-ccitt': { width: 16, polynomial: 0x1021, start: 0xffff, reflected: false, finalXor: 0 },
  'crc-16-kermit': { width: 16, polynomial: 0x1021, start: 0, reflected: true, finalXor: 0 },
  'crc-16-xmodem': { width: 16, polynomial: 0x1021, start: 0, reflected: false, finalXor: 0 },
  'fcs-16': { width: 16, polynomial: 0x1021, start: 0xffff, reflected: true, finalXor: 0xffff },
  'crc-32': { width: 32, polynomial: 0x04c11db7, start: 0xffffffff, reflected: true, finalXor: 0xffffffff },
} as const satisfies Record<string, CrcModel>

/** Sums, each with its function: bytes `from` to `to` of the input, unsigned. */
const sums = {
  'sum-8': (bytes, from, to) => {
    let sum = 0
    for (let i = from; i < to; i++) sum += bytes[i]!
    return sum & 0xff
  },
  'sum-16': (bytes, from, to) => {
    let sum = 0
    for (let i = from; i < to; i++) sum += bytes[i]!
    return sum & 0xffff
  },
  // Two's complement of the sum: bytes and check add up to 0 (Modbus over serial line 1.02, 6.2.1, calls it LRC).
  'negated-sum-8': (bytes, from, to) => {
    let sum = 0
    for (let i = from; i < to; i++) sum += bytes[i]!
    return -sum & 0xff
  },
  'inverted-sum-8': (bytes, from, to) => {
    let sum = 0
    for (let i = from; i < to; i++) sum += bytes[i]!
    return ~sum & 0xff
  },
  'xor-8': (bytes, from, to) => {
    let all = 0
    for (let i = from; i < to; i++) all ^= bytes[i]!
    return all
  },
  // Both sums modulo 255, the second one high (RFC 1146, appendix I, for eight bits).
  'fletcher-16': (bytes, from, to) => {
    let [first, second] = [0, 0]
    for (let i = from; i < to; i++) {
      first = (first + bytes[i]!) % 255
      second = (second + first) % 255
    }
    return (second << 8) | first
  },
} as const satisfies Record<string, ChecksumFunction>

export type ChecksumName = keyof typeof sums | keyof typeof crcModels

/** Every algorithm, with the width, the catalogued check value and the words it is shown by. */
export const checksums: Record<ChecksumName, ChecksumAlgorithm> = {
  'sum-8': { size: 1, check: 0xdd, label: 'sum of the bytes, 8 bits' },
  'sum-16': { size: 2, check: 0x01dd, label: 'sum of the bytes, 16 bits' },
  'negated-sum-8': { size: 1, check: 0x23, label: 'negated sum of the bytes, 8 bits (LRC)' },
  'inverted-sum-8': { size: 1, check: 0x22, label: 'inverted sum of the bytes, 8 bits' },
  'xor-8': { size: 1, check: 0x31, label: 'XOR of the bytes' },
  'fletcher-16': { size: 2, check: 0x1ede, label: 'Fletcher-16' },
  'crc-8': { size: 1, check: 0xf4, label: 'CRC-8, polynomial 07' },
  'crc-8-maxim': { size: 1, check: 0xa1, label: 'CRC-8 Maxim, polynomial 31 reflected' },
  'crc-16-arc': { size: 2, check: 0xbb3d, label: 'CRC-16 ARC, polynomial 8005 reflected' },
  'crc-16-modbus': { size: 2, check: 0x4b37, label: 'CRC-16 Modbus' },
  'crc-16-ccitt': { size: 2, check: 0x29b1, label: 'CRC-16 CCITT, start FFFF' },
  'crc-16-kermit': { size: 2, check: 0x2189, label: 'CRC-16 Kermit' },
  'crc-16-xmodem': { size: 2, check: 0x31c3, label: 'CRC-16 XMODEM' },
  'fcs-16': { size: 2, check: 0x906e, label: 'FCS-16 of RFC 1662' },
  'crc-32': { size: 4, check: 0xcbf43926, label: 'CRC-32' },
}

export const checksumNames = Object.keys(checksums) as ChecksumName[]

/** The table of a CRC with one step per byte (RFC 1662, appendix C, shows the method). */
function tableOf({ width, polynomial, reflected }: CrcModel): Int32Array {
  const table = new Int32Array(256)
  const top = width === 32 ? 0x80000000 : 1 << (width - 1)
  const mask = width === 32 ? 0xffffffff : (1 << width) - 1
  const flipped = reflected ? reflect(polynomial, width) : polynomial
  for (let byte = 0; byte < 256; byte++) {
    let rest = reflected ? byte : byte << (width - 8)
    for (let bit = 0; bit < 8; bit++) {
      if (reflected) rest = rest & 1 ? (rest >>> 1) ^ flipped : rest >>> 1
      else rest = rest & top ? (rest << 1) ^ flipped : rest << 1
    }
    table[byte] = rest & mask
  }
  return table
}

function reflect(value: number, width: number): number {
  let out = 0
  for (let bit = 0; bit < width; bit++) if (value & (1 << bit)) out |= 1 << (width - 1 - bit)
  return out >>> 0
}

export type ChecksumFunction = (bytes: Uint8Array, from: number, to: number) => number

/** Below this many bytes two a step are quicker than eight. */
const shortInput = 24

/**
 * Several bytes a step over several tables (slicing), table k being table 0 followed by k zero bytes. Both kinds of CRC work
 * on 32 bits, signed; one that is not reflected stands at the upper end of them.
 */
function slicesOf(first: Int32Array, next: (value: number) => number): Eight {
  const slices = [first]
  for (let k = 1; k < 8; k++) slices.push(slices[k - 1]!.map((value) => next(value)))
  return slices as Eight
}
type Eight = [Int32Array, Int32Array, Int32Array, Int32Array, Int32Array, Int32Array, Int32Array, Int32Array]

/** A CRC over more bytes: two a step, or eight a step, where their number is one of eights. */
type Step = (crc: number, bytes: Uint8Array, from: number, to: number) => number

/** Long input, by eights and what is left by twos. Short input does not come here: engines make of each what it needs. */
const inSteps =
  (byTwos: Step, byEights: Step): Step =>
  (crc, bytes, from, to) => {
    const rest = to - ((to - from) & 7)
    return byTwos(byEights(crc, bytes, from, rest), bytes, rest, to)
  }

function reflectedCrc(model: CrcModel): ChecksumFunction {
  const [t0, t1, t2, t3, t4, t5, t6, t7] = slicesOf(tableOf(model), nextOf(model))
  const byEights: Step = (crc, bytes, from, to) => {
    for (let i = from; i < to; i += 8) {
      crc ^= bytes[i]! | (bytes[i + 1]! << 8) | (bytes[i + 2]! << 16) | (bytes[i + 3]! << 24)
      crc =
        t7[crc & 0xff]! ^
        t6[(crc >>> 8) & 0xff]! ^
        t5[(crc >>> 16) & 0xff]! ^
        t4[crc >>> 24]! ^
        t3[bytes[i + 4]!]! ^
        t2[bytes[i + 5]!]! ^
        t1[bytes[i + 6]!]! ^
        t0[bytes[i + 7]!]!
    }
    return crc
  }
  const byTwos: Step = (crc, bytes, from, to) => {
    let i = from
    for (const end = to - 1; i < end; i += 2)
      crc = (crc >>> 16) ^ t1[(crc ^ bytes[i]!) & 0xff]! ^ t0[((crc >>> 8) ^ bytes[i + 1]!) & 0xff]!
    return i < to ? (crc >>> 8) ^ t0[(crc ^ bytes[i]!) & 0xff]! : crc
  }
  const long = inSteps(byTwos, byEights)
  const start = model.start | 0
  const { finalXor } = model
  return (bytes, from, to) => (to - from < shortInput ? byTwos : long)(start, bytes, from, to) ^ finalXor
}

/** One zero byte more. */
function nextOf(model: CrcModel): (value: number) => number {
  const t0 = tableOf(model)
  return (value) => (value >>> 8) ^ t0[value & 0xff]!
}

function straightCrc(model: CrcModel): ChecksumFunction {
  const { width, start, finalXor } = model
  const lift = 32 - width
  const lifted = tableOf(model).map((value) => value << lift)
  const [t0, t1, t2, t3, t4, t5, t6, t7] = slicesOf(lifted, (value) => (value << 8) ^ lifted[value >>> 24]!)
  const byEights: Step = (crc, bytes, from, to) => {
    for (let i = from; i < to; i += 8) {
      crc ^= (bytes[i]! << 24) | (bytes[i + 1]! << 16) | (bytes[i + 2]! << 8) | bytes[i + 3]!
      crc =
        t7[crc >>> 24]! ^
        t6[(crc >>> 16) & 0xff]! ^
        t5[(crc >>> 8) & 0xff]! ^
        t4[crc & 0xff]! ^
        t3[bytes[i + 4]!]! ^
        t2[bytes[i + 5]!]! ^
        t1[bytes[i + 6]!]! ^
        t0[bytes[i + 7]!]!
    }
    return crc
  }
  const byTwos: Step = (crc, bytes, from, to) => {
    let i = from
    for (const end = to - 1; i < end; i += 2)
      crc = (crc << 16) ^ t1[(crc >>> 24) ^ bytes[i]!]! ^ t0[((crc >>> 16) & 0xff) ^ bytes[i + 1]!]!
    return i < to ? (crc << 8) ^ t0[(crc >>> 24) ^ bytes[i]!]! : crc
  }
  const long = inSteps(byTwos, byEights)
  const first = start << lift
  return (bytes, from, to) => ((to - from < shortInput ? byTwos : long)(first, bytes, from, to) >>> lift) ^ finalXor
}

const owned = new Map<string, ChecksumFunction>()

/** A CRC of one’s own, made once. */
function ownCrc(model: CrcModel): ChecksumFunction {
  const { width, polynomial, start, reflected, finalXor } = model
  const key = [width, polynomial, start, reflected, finalXor].join(' ')
  let found = owned.get(key)
  if (!found) owned.set(key, (found = reflected ? reflectedCrc(model) : straightCrc(model)))
  return found
}

const made = new Map<ChecksumName, ChecksumFunction>(Object.entries(sums) as [ChecksumName, ChecksumFunction][])

function signedFunction(name: ChecksumName | CrcModel): ChecksumFunction {
  if (typeof name !== 'string') return ownCrc(name)
  let found = made.get(name)
  if (!found) {
    const model: CrcModel = crcModels[name as keyof typeof crcModels]
    found = model.reflected ? reflectedCrc(model) : straightCrc(model)
    made.set(name, found)
  }
  return found
}

/** The function of an algorithm: unsigned checksum of `bytes[from … to)`. */
export function checksumFunction(name: ChecksumName | CrcModel): ChecksumFunction {
  const run = signedFunction(name)
  return (bytes, from, to) => run(bytes, from, to) >>> 0
}

/** Bytes of a checksum. */
export const checksumSize = (name: ChecksumName | CrcModel): 1 | 2 | 4 =>
  typeof name === 'string' ? checksums[name].size : ((name.width / 8) as 1 | 2 | 4)

/** Whether what stands at `at` is the checksum of `bytes[from … at)`, in that order of bytes. */
export function checksumFits(
  name: ChecksumName | CrcModel,
  order: Order,
): (bytes: Uint8Array, from: number, at: number) => boolean {
  const run = signedFunction(name)
  const size = checksumSize(name)
  if (size === 1) return (bytes, from, at) => run(bytes, from, at) === bytes[at]
  if (size === 2)
    return order === 'low'
      ? (bytes, from, at) => run(bytes, from, at) === (bytes[at]! | (bytes[at + 1]! << 8))
      : (bytes, from, at) => run(bytes, from, at) === ((bytes[at]! << 8) | bytes[at + 1]!)
  return (bytes, from, at) => run(bytes, from, at) === (takeNumber(bytes, at, 4, order) | 0)
}

/** Unsigned checksum of all the bytes. */
export const checksumOf = (name: ChecksumName, bytes: Uint8Array): number => checksumFunction(name)(bytes, 0, bytes.length)
