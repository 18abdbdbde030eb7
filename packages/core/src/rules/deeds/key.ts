import { oneOf } from '../../describe/index.ts'
import { described } from '../../settings/index.ts'
import { deedOf } from '../deed.ts'

const says = {
  delete: 'deletes the last character',
  clear: 'clears what was typed',
  sign: 'changes the sign',
  accept: 'accepts what was typed',
}

/** A key of a keypad: it goes to the widget that opened the layer. */
export const typeKey = deedOf({
  deed: 'type',
  label: 'types',
  settings: described({
    key: {
      label: 'key',
      before: '',
      type: oneOf('0', '1', '2', '3', '4', '5', '6', '7', '8', '9', '.', 'sign', 'delete', 'clear', 'accept'),
      default: '0',
      group: 'Deed',
    },
  }),
  words: ({ key }) => (Object.hasOwn(says, key) ? says[key as keyof typeof says] : `types ${key}`),
  run: ({ key }, world) => world.do({ do: 'key', key }),
})
