import type { Direction, EventKind, Operation, Reason } from '../../frames/index.ts'

/**
 * Example of a frame in the manner of a manual. `of`: the variable, the widget of an event, or the command with its `values`. Bytes in hex, or characters after `"`,
 * with `{0D}` for one that cannot be seen.
 */
export interface Example {
  direction: Direction
  operation: Operation
  of: string
  value?: number | string
  values?: readonly (number | string)[]
  what?: EventKind
  reason?: Reason
  sequence?: number
  bytes: string
}

/** A page about an invented module as its maker would have written it, and six frames of it. */
export interface ModuleDescription {
  name: string
  page: string
  examples: readonly Example[]
}

type Meaning = Omit<Example, 'direction' | 'operation' | 'of' | 'bytes'>
const frame = (direction: Direction, operation: Operation, of: string, more: Meaning, bytes: string): Example => ({
  direction,
  operation,
  of,
  ...more,
  bytes,
})
const toPanel = (operation: Operation, of: string, more: Meaning, bytes: string) => frame('to panel', operation, of, more, bytes)
const toHost = (operation: Operation, of: string, more: Meaning, bytes: string) => frame('to host', operation, of, more, bytes)

export const descriptions: readonly ModuleDescription[] = [
  {
    name: 'Saltmarsh 5',
    page: `Each telegram begins with 3C. The second byte is the number of bytes that follow. Then the function, the register (two
bytes, high byte first) and the data, high byte first. Function 20 sent by the controller stores a register; sent by the display it
tells that the operator has changed one. Function 21 reads: the controller gives the number of registers, the display sends them.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '3C 05 20 12 00 07 D0'),
      toPanel('ask', 'level', {}, '3C 04 21 12 00 01'),
      toHost('value', 'level', { value: 200 }, '3C 05 21 12 00 07 D0'),
      toHost('report', 'mode', { value: 1 }, '3C 05 20 12 01 00 01'),
      toPanel('write', 'mode', { value: 2 }, '3C 05 20 12 01 00 02'),
      toHost('report', 'level', { value: 0 }, '3C 05 20 12 00 00 00'),
    ],
  },
  {
    name: 'Tern 43',
    page: `E8, then a length of two bytes (high byte first) that counts itself and all that follows it. Command, register and data,
low byte first. Last a sum of all bytes after E8. 10 stores, 11 reads, 91 is the reply, 90 a change by touch, 92 a key: its number
and 00 for up, 01 for down.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, 'E8 00 08 10 00 12 D0 07 01'),
      toPanel('ask', 'level', {}, 'E8 00 07 11 00 12 01 2B'),
      toHost('value', 'level', { value: 200 }, 'E8 00 08 91 00 12 D0 07 82'),
      toHost('report', 'mode', { value: 1 }, 'E8 00 08 90 01 12 01 00 AC'),
      toPanel('write', 'mode', { value: 2 }, 'E8 00 08 10 01 12 02 00 2D'),
      toHost('event', 'Start', { what: 'pressed' }, 'E8 00 07 92 05 00 01 9F'),
    ],
  },
  {
    name: 'Rookery T',
    page: `A5 C3, number of bytes that follow, command, address (high byte first), data. Texts go as they are, without an end and
without filling; the display clears the rest of the field. 01 stores, 02 asks for words, 03 answers.`,
    examples: [
      toPanel('write', 'title', { value: 'Sluices' }, 'A5 C3 0A 01 13 00 53 6C 75 69 63 65 73'),
      toPanel('write', 'title', { value: 'Weir' }, 'A5 C3 07 01 13 00 57 65 69 72'),
      toPanel('write', 'title', { value: 'N' }, 'A5 C3 04 01 13 00 4E'),
      toPanel('write', 'level', { value: 200 }, 'A5 C3 05 01 12 00 07 D0'),
      toPanel('ask', 'level', {}, 'A5 C3 04 02 12 00 01'),
      toHost('value', 'level', { value: 200 }, 'A5 C3 05 03 12 00 07 D0'),
    ],
  },
  {
    name: 'Plover line',
    page: `Telegrams are text between [[ and ]]. name=value sets, name? asks, the display answers and reports name=value, and
confirms with ok. Numbers as they are shown; texts in quotes.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '"[[level=200.0]]'),
      toPanel('write', 'title', { value: 'Weir 2' }, '"[[title="Weir 2"]]'),
      toPanel('ask', 'mode', {}, '"[[mode?]]'),
      toHost('report', 'mode', { value: 2 }, '"[[mode=fill]]'),
      toHost('done', 'level', {}, '"[[ok level]]'),
      toPanel('write', 'mode', { value: 0 }, '"[[mode=off]]'),
    ],
  },
  {
    name: 'Curlew mixed',
    page: `Orders are lines of text ended by CR: SET name value, GET name. The display answers in bytes: 9C, register (low byte
first), value (low byte first), XOR of these. A change by touch begins with 9D, else it is the same.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '"SET level 200.0{0D}'),
      toPanel('ask', 'level', {}, '"GET level{0D}'),
      toHost('value', 'level', { value: 200 }, '9C 00 12 D0 07 59'),
      toHost('report', 'mode', { value: 1 }, '9D 01 12 01 00 8F'),
      toPanel('write', 'mode', { value: 1 }, '"SET mode drain{0D}'),
      toHost('report', 'level', { value: 0 }, '9D 00 12 00 00 8F'),
    ],
  },
  {
    name: 'Dunlin F',
    page: `Three bytes 1E end each telegram. main.level.v=2000 stores the raw number; texts are written main.title.v="Weir". A name is
followed by a question mark to read it; the answer begins with a colon. The display reports with an exclamation mark.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '"main.level.v=2000{1E}{1E}{1E}'),
      toPanel('write', 'title', { value: 'Weir' }, '"main.title.v="Weir"{1E}{1E}{1E}'),
      toPanel('ask', 'level', {}, '"main.level.v?{1E}{1E}{1E}'),
      toHost('value', 'level', { value: 200 }, '":main.level.v=2000{1E}{1E}{1E}'),
      toHost('report', 'mode', { value: 2 }, '"!main.mode.v=2{1E}{1E}{1E}'),
      toPanel('write', 'mode', { value: 1 }, '"main.mode.v=1{1E}{1E}{1E}'),
    ],
  },
  {
    name: 'Godwit 7',
    page: `7F before and after. Inside, 7F is sent as 1B 01, 1B as 1B 02 and 0D as 1B 03. Command, register and data, high byte first;
then a byte that makes the sum of all zero. 41 store, 42 read, 43 answer, 44 change by touch, 45 key with its number and 01.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '7F 41 12 00 07 D0 D6 7F'),
      toPanel('write', 'level', { value: 345.5 }, '7F 41 12 00 1B 03 1B 01 21 7F'),
      toPanel('ask', 'level', {}, '7F 42 12 00 01 AB 7F'),
      toHost('value', 'level', { value: 2.7 }, '7F 43 12 00 00 1B 02 90 7F'),
      toHost('report', 'mode', { value: 1 }, '7F 44 12 01 00 01 A8 7F'),
      toHost('event', 'Start', { what: 'pressed' }, '7F 45 00 05 01 B5 7F'),
    ],
  },
  {
    name: 'Whimbrel 32',
    page: `4A 8B, command, byte address (four bytes), number of words (reading and data only), data. All low byte first. Last CRC-16
(polynomial 8005, start FFFF, reflected), low byte first, over everything. 31 store, 32 read, 33 answer, 34 change, 35 stored.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '4A 8B 31 00 24 00 00 01 D0 07 C9 FB'),
      toPanel('ask', 'level', {}, '4A 8B 32 00 24 00 00 01 30 6E'),
      toHost('value', 'level', { value: 200 }, '4A 8B 33 00 24 00 00 01 D0 07 48 22'),
      toHost('report', 'mode', { value: 1 }, '4A 8B 34 02 24 00 00 01 01 00 37 96'),
      toPanel('write', 'total', { value: 123456 }, '4A 8B 31 20 24 00 00 02 40 E2 01 00 F7 75'),
      toHost('done', 'level', {}, '4A 8B 35 00 24 00 00 22 70'),
    ],
  },
  {
    name: 'Knot 10',
    page: `Ten bytes always: B4, number of the telegram, letter, register and value (high byte first), 20 20, XOR of the first nine.
W store, R read (value: how many), r answer, e change by touch, w stored (value 0).`,
    examples: [
      toPanel('write', 'level', { value: 200, sequence: 1 }, 'B4 01 57 12 00 07 D0 20 20 27'),
      toPanel('ask', 'level', { sequence: 2 }, 'B4 02 52 12 00 00 01 20 20 F7'),
      toHost('value', 'level', { value: 200, sequence: 2 }, 'B4 02 72 12 00 07 D0 20 20 01'),
      toHost('report', 'mode', { value: 1, sequence: 7 }, 'B4 07 65 12 01 00 01 20 20 C4'),
      toPanel('write', 'mode', { value: 2, sequence: 3 }, 'B4 03 57 12 01 00 02 20 20 F1'),
      toHost('done', 'mode', { sequence: 3 }, 'B4 03 77 12 01 00 00 20 20 D3'),
    ],
  },
  {
    name: 'Avocet C',
    page: `6E, number of bytes that follow, command, register, data, CRC-16 (polynomial 1021, start FFFF), high byte first, over register
and data only. 01 store, 02 read, 03 answer, 04 change by touch, 05 stored.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '6E 07 01 12 00 07 D0 20 E5'),
      toPanel('ask', 'level', {}, '6E 06 02 12 00 01 F1 BE'),
      toHost('value', 'level', { value: 200 }, '6E 07 03 12 00 07 D0 20 E5'),
      toHost('report', 'mode', { value: 1 }, '6E 07 04 12 01 00 01 55 1E'),
      toPanel('write', 'total', { value: 123456 }, '6E 09 01 12 10 00 01 E2 40 92 AA'),
      toHost('done', 'level', {}, '6E 05 05 12 00 78 1E'),
    ],
  },
  {
    name: 'Ruff M',
    page: `A telegram ends with FC FC and begins with nothing. Letter, register (high byte first), number of words, data. P puts, G gets
(number of words only), g answers, t tells of a touch, p confirms (register only). FC FC may stand in the data.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '50 12 00 01 07 D0 FC FC'),
      toPanel('ask', 'level', {}, '47 12 00 01 FC FC'),
      toHost('value', 'level', { value: 200 }, '67 12 00 01 07 D0 FC FC'),
      toHost('report', 'mode', { value: 1 }, '74 12 01 01 00 01 FC FC'),
      toPanel('write', 'total', { value: 130300 }, '50 12 10 02 00 01 FC FC FC FC'),
      toHost('done', 'level', {}, '70 12 00 FC FC'),
    ],
  },
  {
    name: 'Snipe 2',
    page: `5B, number of bytes that follow, function, its data, sum of all bytes before. 60 stores a register (two bytes, then data, high
byte first), 61 reads (number of registers), 62 tells of a touch. 7A 03 55 and two bytes open a page, counted from 0; 7C 03 55 and
two bytes tell which one the operator has opened. 7B sets the clock: hour, minute, second, each two figures in a byte.`,
    examples: [
      toPanel('write', 'level', { value: 200 }, '5B 06 60 12 00 07 D0 AA'),
      toPanel('ask', 'level', {}, '5B 05 61 12 00 01 D4'),
      toHost('report', 'mode', { value: 1 }, '5B 06 62 12 01 00 01 D7'),
      toPanel('message', 'open page', { values: [3] }, '5B 06 7A 03 55 00 02 35'),
      toPanel('message', 'set clock', { values: [29_730] }, '5B 05 7B 08 15 30 28'),
      toHost('message', 'page opened', { values: [2] }, '5B 06 7C 03 55 00 01 36'),
    ],
  },
  {
    name: 'Dotterel P',
    page: `Lines that end with CR LF. The display says nothing of its own accord but DOTTEREL and the number of its program, when it gets
power. Then it wants INIT and a period in milliseconds, and says INIT OK. R and a name reads: it says the name, a colon and the number.
W, a name and a number store; it says W and the name.`,
    examples: [
      toHost('message', 'banner', { values: [21] }, '"DOTTEREL 21{0D}{0A}'),
      toPanel('message', 'init', { values: [200] }, '"INIT 200{0D}{0A}'),
      toHost('message', 'ready', { values: [] }, '"INIT OK{0D}{0A}'),
      toPanel('ask', 'level', {}, '"R level{0D}{0A}'),
      toHost('value', 'level', { value: 200 }, '"level:2000{0D}{0A}'),
      toPanel('write', 'level', { value: 200 }, '"W level 2000{0D}{0A}'),
    ],
  },
]
