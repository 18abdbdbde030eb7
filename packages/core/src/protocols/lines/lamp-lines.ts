import {
  identified,
  type Direction,
  type Layout,
  type LineForm,
  type LinePart,
  type LinesWay,
  type Operation,
} from '../../frames/index.ts'
import { freshLinePart } from './parts/table.ts'
import { spellingSettings } from './spelling.ts'

const words = (text: string): LinePart => ({ part: 'words', text })
const gap = (text: string): LinePart => ({ ...freshLinePart('gap'), text })
const blank = gap(' ')

const line = (operation: Operation, directions: readonly Direction[], ...parts: (LinePart | string)[]): LineForm => ({
  operation,
  directions,
  types: [],
  parts: parts.map((part) => (typeof part === 'string' ? freshLinePart(part) : part)),
})

const way: LinesWay = identified({
  kind: 'lines',
  start: [],
  end: [0x0a],
  ignored: [0x0d],
  longest: 512,
  gapUs: 200_000,
  names: { template: '{name}', letters: 'as they are' },
  spelling: spellingSettings.defaults,
  forms: [
    line('write', ['to panel'], 'name', gap(' = '), 'value'),
    line('set bits', ['to panel'], words('bits'), blank, 'name', blank, 'value'),
    line('ask', ['to panel'], 'name', words('?')),
    line('value', ['to host'], words('is'), blank, 'name', gap(' = '), 'value'),
    line('report', ['to host'], 'name', gap(' = '), 'value'),
    line('event', ['to host'], words('event'), blank, 'name', blank, 'what'),
    line('message', ['to panel', 'to host'], words('note'), blank, 'number', blank, 'hex data'),
    line('done', ['to panel', 'to host'], words('ok'), blank, 'name'),
    line('refused', ['to panel', 'to host'], words('no'), blank, 'name', blank, 'reason'),
  ],
})

/** Lines to read and to type: `dome_target = 231.0`, `weather_flags?`, `ok dome_target`; ended by LF, a CR before it is passed over. */
export const lampLines: Layout = { name: 'lamp lines', toPanel: way, toHost: 'same' }
