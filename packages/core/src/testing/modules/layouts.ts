import type { Order } from '../../base/index.ts'
import {
  bothWays,
  directionsOf,
  freshFraming,
  identified,
  part,
  plainEventCodes,
  type BinaryWay,
  type Direction,
  type Form,
  type Layout,
  type LineForm,
  type LinePart,
  type LinesWay,
  type Operation,
  type Part,
} from '../../frames/index.ts'
import { freshLinePart, spellingSettings, type BuildCommand, type Spelling } from '../../protocols/index.ts'
import { commandOf, field, hexField, textField } from '../commands.ts'

const payload = part('payload')
const high = { order: 'high' } as const
const low = { order: 'low' } as const

const form = (operation: Operation, code: number, parts: readonly Part[] = [], directions = directionsOf[operation]): Form => ({
  operation,
  directions,
  code,
  parts,
})

const bytes = (name: string, way: Partial<BinaryWay> & Pick<BinaryWay, 'framing' | 'head' | 'forms'>): Layout =>
  bothWays(name, { payload: 'as memory', mostPayload: 120, gapUs: 50_000, end: [], ...way })

const words = (text: string): LinePart => ({ part: 'words', text })
const gap = (text: string): LinePart => ({ ...freshLinePart('gap'), text })
const line = (operation: Operation, directions: readonly Direction[], ...parts: (LinePart | string)[]): LineForm => ({
  operation,
  directions,
  types: [],
  parts: parts.map((one) => (typeof one === 'string' ? freshLinePart(one) : one)),
})
const lines = (way: Partial<LinesWay> & Pick<LinesWay, 'end' | 'forms'>, spelling: Partial<Spelling> = {}): LinesWay =>
  identified({
    kind: 'lines',
    start: [],
    ignored: [],
    longest: 200,
    gapUs: 100_000,
    names: { template: '{name}', letters: 'as they are' },
    spelling: { ...spellingSettings.defaults, ...spelling },
    ...way,
  })

const panel = ['to panel'] as const
const host = ['to host'] as const

/** The layout of each described module, by its name, with the order of bytes in its memory, and the frames it has besides. */
export const moduleLayouts: Readonly<Record<string, { layout: Layout; memory: Order; commands?: readonly BuildCommand[] }>> = {
  'Saltmarsh 5': {
    memory: 'high',
    layout: bytes('Saltmarsh 5', {
      framing: freshFraming('length-led', { start: [0x3c] }),
      head: [part('length', { size: 1 }), part('operation'), part('address', { size: 2, ...high })],
      forms: [
        form('write', 0x20, [payload]),
        form('report', 0x20, [payload]),
        form('ask', 0x21, [part('words')]),
        form('value', 0x21, [payload]),
      ],
    }),
  },
  'Tern 43': {
    memory: 'low',
    layout: bytes('Tern 43', {
      framing: freshFraming('length-led', { start: [0xe8] }),
      head: [part('length', { size: 2, adds: 2 }), part('operation'), part('address', { size: 2, ...low })],
      forms: [
        form('write', 0x10, [payload]),
        form('ask', 0x11, [part('words')]),
        form('value', 0x91, [payload]),
        form('report', 0x90, [payload]),
        form('event', 0x92, [part('what', { codes: { ...plainEventCodes, lifted: 0, pressed: 1 } })]),
      ],
      end: [part('checksum', { algorithm: 'sum-8', covers: 'after the start' })],
    }),
  },
  'Rookery T': {
    memory: 'high',
    layout: bytes('Rookery T', {
      framing: freshFraming('length-led', { start: [0xa5, 0xc3] }),
      head: [part('length', { size: 1 }), part('operation'), part('address', { size: 2, ...high })],
      forms: [form('write', 1, [payload]), form('ask', 2, [part('words')]), form('value', 3, [payload])],
    }),
  },
  'Plover line': {
    memory: 'low',
    layout: {
      name: 'Plover line',
      toPanel: lines({
        start: [0x5b, 0x5b],
        end: [0x5d, 0x5d],
        forms: [
          line('write', panel, 'name', gap('='), 'value'),
          line('ask', panel, 'name', words('?')),
          line('report', host, 'name', gap('='), 'value'),
          line('value', host, 'name', gap('='), 'value'),
          line('done', host, words('ok'), gap(' '), 'name'),
        ],
      }),
      toHost: 'same',
    },
  },
  'Curlew mixed': {
    memory: 'low',
    layout: {
      name: 'Curlew mixed',
      toPanel: lines({
        end: [0x0d],
        forms: [
          line('write', panel, words('SET'), gap(' '), 'name', gap(' '), 'value'),
          line('ask', panel, words('GET'), gap(' '), 'name'),
        ],
      }),
      toHost: identified({
        kind: 'binary',
        framing: freshFraming('fixed', { start: [], length: 6 }),
        payload: 'as memory',
        mostPayload: 2,
        gapUs: 50_000,
        head: [part('operation'), part('address', { size: 2, ...low })],
        forms: [form('value', 0x9c, [payload]), form('report', 0x9d, [payload])],
        end: [part('checksum', { algorithm: 'xor-8' })],
      }),
    },
  },
  'Dunlin F': {
    memory: 'low',
    layout: {
      name: 'Dunlin F',
      toPanel: lines(
        {
          end: [0x1e, 0x1e, 0x1e],
          names: { template: '{page}.{name}.v', letters: 'as they are' },
          forms: [
            line('write', panel, 'name', gap('='), 'value'),
            line('ask', panel, 'name', words('?')),
            line('value', host, words(':'), 'name', gap('='), 'value'),
            line('report', host, words('!'), 'name', gap('='), 'value'),
          ],
        },
        { numbers: 'raw', choices: 'numbers' },
      ),
      toHost: 'same',
    },
  },
  'Godwit 7': {
    memory: 'high',
    layout: bytes('Godwit 7', {
      framing: freshFraming('delimited', { flag: 0x7f, escape: 0x1b, codes: [0x7f, 1, 0x1b, 2, 0x0d, 3] }),
      head: [part('operation'), part('address', { size: 2, ...high })],
      forms: [
        form('write', 0x41, [payload]),
        form('ask', 0x42, [part('words')]),
        form('value', 0x43, [payload]),
        form('report', 0x44, [payload]),
        form('event', 0x45, [part('what', { codes: plainEventCodes })]),
      ],
      end: [part('checksum', { algorithm: 'negated-sum-8' })],
    }),
  },
  'Whimbrel 32': {
    memory: 'low',
    layout: bytes('Whimbrel 32', {
      framing: freshFraming('silent', { start: [0x4a, 0x8b] }),
      gapUs: 2000,
      head: [part('operation'), part('address', { size: 4, unit: 'bytes', ...low })],
      forms: [
        form('write', 0x31, [part('words'), payload]),
        form('ask', 0x32, [part('words')]),
        form('value', 0x33, [part('words'), payload]),
        form('report', 0x34, [part('words'), payload]),
        form('done', 0x35, [], host),
      ],
      end: [part('checksum', { algorithm: 'crc-16-modbus', ...low })],
    }),
  },
  'Knot 10': {
    memory: 'high',
    layout: bytes('Knot 10', {
      framing: freshFraming('fixed', { start: [0xb4], length: 10 }),
      mostPayload: 2,
      head: [part('sequence'), part('operation'), part('address', { size: 2, ...high })],
      forms: [
        form('write', 0x57, [payload]),
        form('ask', 0x52, [part('words', { size: 2 })]),
        form('value', 0x72, [payload]),
        form('report', 0x65, [payload]),
        form('done', 0x77, [part('constant', { bytes: [0, 0] })], host),
      ],
      end: [part('constant', { bytes: [0x20, 0x20] }), part('checksum', { algorithm: 'xor-8' })],
    }),
  },
  'Avocet C': {
    memory: 'high',
    layout: bytes('Avocet C', {
      framing: freshFraming('length-led', { start: [0x6e] }),
      head: [part('length', { size: 1 }), part('operation'), part('address', { size: 2, ...high })],
      forms: [
        form('write', 1, [payload]),
        form('ask', 2, [part('words')]),
        form('value', 3, [payload]),
        form('report', 4, [payload]),
        form('done', 5, [], host),
      ],
      end: [part('checksum', { algorithm: 'crc-16-ccitt', covers: 'from byte', first: 3 })],
    }),
  },
  'Ruff M': {
    memory: 'high',
    layout: bytes('Ruff M', {
      framing: freshFraming('ended', { end: [0xfc, 0xfc] }),
      head: [part('operation'), part('address', { size: 2, ...high })],
      forms: [
        form('write', 0x50, [part('words'), payload]),
        form('ask', 0x47, [part('words')]),
        form('value', 0x67, [part('words'), payload]),
        form('report', 0x74, [part('words'), payload]),
        form('done', 0x70, [], host),
      ],
    }),
  },
  'Snipe 2': {
    memory: 'high',
    layout: bytes('Snipe 2', {
      framing: freshFraming('length-led', { start: [0x5b] }),
      head: [part('length', { size: 1 }), part('operation')],
      forms: [
        form('write', 0x60, [part('address', { size: 2, ...high }), payload]),
        form('ask', 0x61, [part('address', { size: 2, ...high }), part('words')]),
        form('value', 0x61, [part('address', { size: 2, ...high }), payload]),
        form('report', 0x62, [part('address', { size: 2, ...high }), payload]),
      ],
      end: [part('checksum', { algorithm: 'sum-8' })],
    }),
    commands: [
      commandOf([hexField('03 55'), field('number', { label: 'page', size: 2, offset: 1 })], {
        number: 1,
        name: 'open page',
        frame: 'layout',
        code: 0x7a,
      }),
      commandOf([field('clock')], { number: 2, name: 'set clock', frame: 'layout', code: 0x7b }),
      commandOf([hexField('03 55'), field('number', { label: 'page', size: 2, offset: 1 })], {
        number: 3,
        name: 'page opened',
        sender: 'panel',
        frame: 'layout',
        code: 0x7c,
      }),
    ],
  },
  'Dotterel P': {
    memory: 'low',
    layout: {
      name: 'Dotterel P',
      toPanel: lines(
        {
          end: [0x0d, 0x0a],
          forms: [
            line('write', panel, words('W'), gap(' '), 'name', gap(' '), 'value'),
            line('ask', panel, words('R'), gap(' '), 'name'),
            line('value', host, 'name', gap(':'), 'value'),
            line('done', host, words('W'), gap(' '), 'name'),
          ],
        },
        { numbers: 'raw', choices: 'numbers' },
      ),
      toHost: 'same',
    },
    commands: [
      commandOf([textField('DOTTEREL '), field('number', { label: 'program', spelling: 'decimal', size: 0 })], {
        number: 1,
        name: 'banner',
        sender: 'panel',
        frame: 'bare',
      }),
      commandOf([textField('INIT '), field('number', { label: 'period', spelling: 'decimal', size: 0 })], {
        number: 2,
        name: 'init',
        frame: 'bare',
        answer: 'command',
        answerBy: 3,
      }),
      commandOf([textField('INIT OK')], { number: 3, name: 'ready', sender: 'panel', frame: 'bare' }),
    ],
  },
}
