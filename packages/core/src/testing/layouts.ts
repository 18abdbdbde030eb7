import {
  operations,
  bothWays,
  lampBinary,
  lengthLedStart,
  directionsOf,
  freshFraming,
  part,
  plainParts,
  type BinaryLayout,
  type BinaryWay,
  type Direction,
  type Message,
} from '../frames/index.ts'

/** A layout that is the same both ways, with something of its way changed. */
export const changedWay = (layout: BinaryLayout, change: Partial<BinaryWay>): BinaryLayout => ({
  ...layout,
  toPanel: { ...layout.toPanel, ...change },
})

/** Start bytes, length-led, big-endian, no checksum, no sequence: the second layout of the tests. */
export const bigEndianPlain: BinaryLayout = bothWays('start, length, big-endian', {
  framing: { kind: 'length-led', start: [0xa1, 0xb2] },
  payload: 'as memory',
  mostPayload: 120,
  gapUs: 50_000,
  head: [
    part('length', { size: 1, order: 'high', counts: 'after the length', adds: 0 }),
    part('operation'),
    part('address', { size: 2, order: 'high' }),
  ],
  forms: operations.map((operation) => ({
    operation,
    directions: directionsOf[operation],
    code: lengthLedStart.toPanel.forms.find((f) => f.operation === operation)!.code,
    parts: plainParts(operation, 'high'),
  })),
  end: [],
})

const fixedEight: BinaryLayout = bothWays('eight bytes', {
  framing: { kind: 'fixed', start: [0x5a], length: 8 },
  payload: 'low',
  mostPayload: 2,
  gapUs: 20_000,
  head: [part('sequence'), part('operation'), part('address', { size: 2, order: 'low' })],
  forms: [
    { operation: 'write', directions: ['to panel'], code: 0x10, parts: [{ part: 'payload' }] },
    { operation: 'report', directions: ['to host'], code: 0x20, parts: [{ part: 'payload' }] },
    { operation: 'done', directions: ['to panel', 'to host'], code: 0x30, parts: [{ part: 'constant', bytes: [0, 0] }] },
  ],
  end: [part('checksum', { algorithm: 'xor-8', order: 'low', covers: 'after the start' })],
})

const countedWords: BinaryLayout = bothWays('counted words, length of the whole, no sequence', {
  ...lengthLedStart.toPanel,
  framing: { kind: 'length-led', start: [0x68] },
  mostPayload: 120,
  head: [
    part('operation'),
    part('length', { size: 2, order: 'low', counts: 'whole frame', adds: 1 }),
    part('address', { size: 1, order: 'low' }),
  ],
  forms: lengthLedStart.toPanel.forms.map((f) =>
    f.parts[0]?.part === 'payload' ? { ...f, parts: [part('words', { size: 1, order: 'low' }), { part: 'payload' }] } : f,
  ),
  end: [part('checksum', { algorithm: 'crc-32', order: 'low', covers: 'after the length' }), { part: 'constant', bytes: [0x16] }],
})

const noStart: BinaryLayout = bothWays('no start bytes, payload counted, sum', {
  ...bigEndianPlain.toPanel,
  framing: { kind: 'length-led', start: [] },
  head: [
    part('operation'),
    part('length', { size: 1, order: 'high', counts: 'payload', adds: 0 }),
    part('address', { size: 2, order: 'high' }),
  ],
  end: [part('checksum', { algorithm: 'sum-8', order: 'high', covers: 'everything before' })],
})

const wideNumbers: BinaryLayout = bothWays('three-byte length, four-byte address, Fletcher', {
  ...lengthLedStart.toPanel,
  framing: { kind: 'length-led', start: [0x3c] },
  head: [
    part('length', { size: 3, order: 'high', counts: 'after the length, without the check', adds: 0 }),
    part('operation'),
    part('address', { size: 4, order: 'low' }),
  ],
  end: [part('checksum', { algorithm: 'fletcher-16', order: 'high', covers: 'after the start' })],
})

const longLength: BinaryLayout = bothWays('four-byte length, three-byte address, negated sum', {
  ...bigEndianPlain.toPanel,
  head: [
    part('length', { size: 4, order: 'low', counts: 'payload', adds: 0 }),
    part('operation'),
    part('address', { size: 3, order: 'high' }),
  ],
  end: [part('checksum', { algorithm: 'negated-sum-8', order: 'low', covers: 'everything before' })],
})

const lineEnded: BinaryLayout = bothWays('ended by CR LF, nothing else', {
  ...bigEndianPlain.toPanel,
  framing: freshFraming('ended'),
  head: [part('operation'), part('address', { size: 2, order: 'high' })],
})

const endedCounted: BinaryLayout = bothWays('begun and ended by two bytes, payload counted', {
  ...lengthLedStart.toPanel,
  framing: freshFraming('ended', { start: [0x3a], end: [0xfe, 0xfe] }),
  head: [part('sequence'), part('operation'), part('address', { size: 2, order: 'low' })],
  forms: countedWords.toPanel.forms,
  end: [part('checksum', { algorithm: 'crc-8', order: 'low', covers: 'everything before' })],
})

const endedEscaped: BinaryLayout = bothWays('two delimiters, escaped', {
  ...lengthLedStart.toPanel,
  framing: freshFraming('ended', { start: [0x02], end: [0x03], escape: [0x10], xor: 0x40 }),
  head: [part('sequence and operation'), part('address', { size: 2, order: 'low' })],
})

const slipLike: BinaryLayout = bothWays('ended by C0, table of codes', {
  ...endedEscaped.toPanel,
  framing: freshFraming('ended', { end: [0xc0], escape: [0xdb], codes: [0xc0, 0xdc, 0xdb, 0xdd] }),
})

const flagTable: BinaryLayout = bothWays('flag, table of codes', {
  ...endedEscaped.toPanel,
  framing: freshFraming('delimited', { flag: 0x7e, escape: 0x7d, codes: [0x7e, 0x01, 0x7d, 0x02, 0x11, 0x03] }),
})

const zeroEnded: BinaryLayout = bothWays('COBS', { ...endedEscaped.toPanel, framing: freshFraming('cobs') })
const startedCobs: BinaryLayout = bothWays('start byte, COBS', {
  ...endedEscaped.toPanel,
  framing: freshFraming('cobs', { start: [0x55] }),
})
const figures: BinaryLayout = bothWays('figures of ASCII, a code of two bytes, own CRC in hex', {
  ...bigEndianPlain.toPanel,
  framing: freshFraming('length-led', { start: [0x7b] }),
  head: [
    part('length', { size: 3, spelling: 'decimal' }),
    part('operation', { size: 2, order: 'low' }),
    part('sequence', { size: 3, spelling: 'hex' }),
    part('module', { number: 250, size: 3, spelling: 'decimal' }),
    part('address', { size: 4, spelling: 'hex' }),
  ],
  forms: bigEndianPlain.toPanel.forms.map((form) => ({ ...form, code: 0x3130 + form.code })),
  end: [
    part('checksum', {
      algorithm: 'own crc',
      spelling: 'hex',
      covers: 'after the start',
      width: 16,
      polynomial: 0x8bb7,
      initial: 0x1234,
      finalXor: 0x00ff,
    }),
  ],
})

const twoChecks: BinaryLayout = bothWays('two checks, addresses in bytes, length in words', {
  ...lengthLedStart.toPanel,
  framing: freshFraming('length-led', { start: [0x99] }),
  head: [
    part('operation'),
    part('length', { size: 2, order: 'low', counts: 'payload', unit: 'words', adds: 2 }),
    part('address', { size: 4, order: 'low', unit: 'bytes' }),
    part('checksum', { algorithm: 'xor-8', covers: 'from byte', first: 1 }),
  ],
  forms: lengthLedStart.toPanel.forms.map((form) => ({
    ...form,
    parts: ['ask', 'event', 'refused'].includes(form.operation)
      ? [...form.parts, { part: 'constant' as const, bytes: [0] }]
      : form.parts,
  })),
  end: [part('checksum', { algorithm: 'crc-16-modbus', order: 'low', leaves: 2 }), part('constant', { bytes: [0x0d, 0x0a] })],
})

const checkInFront: BinaryLayout = bothWays('a check in front of what it covers', {
  ...bigEndianPlain.toPanel,
  head: [
    part('length', { size: 1, counts: 'whole frame' }),
    part('checksum', { algorithm: 'sum-16', covers: 'everything behind' }),
    part('operation'),
    part('address', { size: 2 }),
  ],
})

const silentEnded: BinaryLayout = bothWays('ended by silence', {
  ...endedEscaped.toPanel,
  framing: freshFraming('silent'),
  gapUs: 140,
})

/** Every shape of layout that the laws of decoding are held against. */
export const layoutsForLaws: BinaryLayout[] = [
  lampBinary,
  lengthLedStart,
  bigEndianPlain,
  fixedEight,
  countedWords,
  noStart,
  wideNumbers,
  longLength,
  figures,
  twoChecks,
  checkInFront,
  lineEnded,
  endedCounted,
  endedEscaped,
  slipLike,
  flagTable,
  zeroEnded,
  startedCobs,
  silentEnded,
]

/** Frames of that layout as they stand on the wire, worked out by hand. */
export const bigEndianPlainFrames: { direction: Direction; message: Message; hex: string }[] = [
  {
    direction: 'to panel',
    message: { operation: 'write', sequence: 0, address: 0x12, payload: [9, 6] },
    hex: 'A1 B2 05 01 00 12 09 06',
  },
  {
    direction: 'to panel',
    message: { operation: 'set bits', sequence: 0, address: 0x30, mask: 0x0104, bits: 4 },
    hex: 'A1 B2 07 02 00 30 01 04 00 04',
  },
  { direction: 'to panel', message: { operation: 'ask', sequence: 0, address: 0x1234, words: 2 }, hex: 'A1 B2 04 03 12 34 02' },
  {
    direction: 'to host',
    message: { operation: 'value', sequence: 0, address: 0x12, payload: [9, 6, 0, 1] },
    hex: 'A1 B2 07 04 00 12 09 06 00 01',
  },
  {
    direction: 'to host',
    message: { operation: 'report', sequence: 0, address: 0x12, payload: [0xa1, 0xb2] },
    hex: 'A1 B2 05 05 00 12 A1 B2',
  },
  { direction: 'to host', message: { operation: 'event', sequence: 0, address: 7, what: 'held' }, hex: 'A1 B2 04 06 00 07 03' },
  { direction: 'to panel', message: { operation: 'done', sequence: 0, address: 0x12 }, hex: 'A1 B2 03 07 00 12' },
  {
    direction: 'to host',
    message: { operation: 'refused', sequence: 0, address: 0x12, reason: 'busy' },
    hex: 'A1 B2 04 08 00 12 06',
  },
  {
    direction: 'to panel',
    message: { operation: 'message', sequence: 0, address: 2, payload: [0, 10] },
    hex: 'A1 B2 05 09 00 02 00 0A',
  },
]
