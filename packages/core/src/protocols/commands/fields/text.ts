import Joi from 'joi'
import { bad, good } from '../../../base/index.ts'
import { plain } from '../../../describe/index.ts'
import { described, settingTypes as t } from '../../../settings/index.ts'
import { bytesToText, textToBytes, type Cell, type Encoding, type TextHolds } from '../../../variables/index.ts'
import { fieldGroup as group, fieldKindOf } from '../field.ts'

const byte = plain<number>('byte', Joi.number().integer().min(0).max(255))

const holdsOf = (cell: Cell | null, size: number): TextHolds =>
  cell?.holds.type === 'text' ? cell.holds : { type: 'text', bytes: size || 240, encoding: 'latin-1' }
const encodingOf = (cell: Cell | null): Encoding => holdsOf(cell, 0).encoding

/** Characters: of a text variable, or some that are said when the command is sent. */
export const text = fieldKindOf({
  field: 'text',
  label: 'text',
  tint: 'payload',
  settings: described({
    label: { label: 'Name', type: t.text, default: 'text', group },
    variable: { label: 'Variable', type: t.touched, default: '', group, accepts: ['text'] },
    size: { label: 'Bytes', type: t.whole, default: 0, min: 0, max: 240, group, zero: 'as long as it is' },
    pad: { label: 'Padded with', type: byte, default: 0x20, group, hint: 'where it has fewer characters than bytes' },
    value: { label: 'Text when none is given', type: t.text, default: '', group },
  }),
  made: ({ size }) => (size ? `${size} bytes` : 'as long as it is'),
  size: ({ size }) => size || null,
  put({ label, variable: cell, size, pad }, value) {
    const bytes = textToBytes(String(value), encodingOf(cell))
    if (!bytes.ok) return bytes
    if (size && bytes.value.length > size) return bad('command.value', { name: label, value: String(value) })
    return good([...bytes.value, ...new Array<number>(Math.max(0, size - bytes.value.length)).fill(pad)])
  },
  read({ variable: cell, size, pad }, bytes, from, to) {
    let end = to
    while (size && end > from && bytes[end - 1] === pad) end--
    return bytesToText(bytes.subarray(from, end), encodingOf(cell))
  },
  carries: ({ label, variable: cell, size, value }) => ({ label, cell, holds: holdsOf(cell, size), value }),
})
