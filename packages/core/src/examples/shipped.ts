import { mustHold, toHex } from '../base/index.ts'
import { withItemIds } from '../describe/index.ts'
import { lampBinary, lengthLedStart, type Layout, type LayoutExample } from '../frames/index.ts'
import { lampLines } from '../protocols/index.ts'
import { frameBytes } from './paste.ts'

/** A layout to begin with, and the words it is offered by. */
export interface ShippedLayout {
  label: string
  layout: Layout
}

const angle = 'angle (0x0012, u16, step 0.1)'
const gate = 'gate (0x0020, closed|open)'

const examples = (...pairs: [string, string][]): readonly LayoutExample[] =>
  withItemIds<LayoutExample>(
    'example',
    pairs.map(([frame, means]) => ({ bytes: toHex(mustHold(frameBytes(frame))), means })),
  )

/** The layouts that are offered to begin with, each with frames that it must say; a project that changes one begins without them. */
export const shippedLayouts: readonly ShippedLayout[] = [
  {
    label: 'lamp binary: byte-stuffed, FCS-16',
    layout: {
      ...lampBinary,
      examples: examples(
        ['7E 51 12 00 06 09 97 82 7E', `write ${angle} = 231.0, sequence 5`],
        ['7E 61 20 00 01 00 0B F3 7E', `write ${gate} = open, sequence 6`],
        ['7E 73 12 00 01 F2 A2 7E', `read request ${angle}, sequence 7`],
        ['7E 74 12 00 06 09 52 C4 7E', `read response ${angle} = 231.0, sequence 7`],
        ['7E 35 12 00 0B 09 4C BE 7E', `report ${angle} = 231.5, sequence 3`],
        ['7E 57 12 00 0B 6F 7E', `acknowledge ${angle}, sequence 5`],
        ['7E 46 05 00 01 C7 89 7E', 'event Start (5) pressed, sequence 4'],
      ),
    },
  },
  {
    label: 'length-prefixed: start byte, CRC-16',
    layout: {
      ...lengthLedStart,
      examples: examples(
        ['D2 51 0A 00 12 00 06 09 D6 09', `write ${angle} = 231.0, sequence 5`],
        ['D2 61 0A 00 20 00 01 00 D1 7A', `write ${gate} = open, sequence 6`],
        ['D2 73 09 00 12 00 01 D5 7A', `read request ${angle}, sequence 7`],
        ['D2 74 0A 00 12 00 06 09 F6 9A', `read response ${angle} = 231.0, sequence 7`],
        ['D2 35 0A 00 12 00 0B 09 5D 72', `report ${angle} = 231.5, sequence 3`],
        ['D2 57 08 00 12 00 D2 4B', `acknowledge ${angle}, sequence 5`],
        ['D2 46 09 00 05 00 01 12 A0', 'event Start (5) pressed, sequence 4'],
      ),
    },
  },
  {
    label: 'lamp lines: lines of text to read and to type',
    layout: {
      ...lampLines,
      examples: examples(
        ['angle = 231.0{0A}', `write ${angle} = 231.0`],
        ['gate = open{0A}', `write ${gate} = open`],
        ['note = "Weir 2"{0A}', 'write note (0x0040, text 8) = "Weir 2"'],
        ['angle?{0A}', `read request ${angle}`],
        ['is angle = 231.0{0A}', `read response ${angle} = 231.0`],
        ['angle = 231.5{0A}', `report ${angle} = 231.5`],
        ['ok angle{0A}', `acknowledge ${angle}`],
        ['event Start pressed{0A}', 'event Start (5) pressed'],
      ),
    },
  },
]
