import Joi from 'joi'
import { plain } from '../../describe/index.ts'
import { described } from '../../settings/index.ts'
import { actionOf } from '../action.ts'

const says = {
  blank: 'types a space',
  delete: 'backspace',
  clear: 'clears the input',
  sign: 'changes the sign',
  accept: 'enter',
}

/** A key of a keypad: it goes to the widget that opened the pop-up. */
export const typeKey = actionOf({
  action: 'type',
  label: 'types',
  settings: described({
    key: {
      label: 'key',
      before: '',
      type: plain<string>(
        'text',
        Joi.string().pattern(/^(?:.|blank|sign|delete|clear|accept)$/su, 'one character, or blank, sign, delete, clear, accept'),
      ),
      default: '0',
      hint: 'one character, or blank, sign, delete, clear, accept',
      group: 'Action',
    },
  }),
  words: ({ key }) => (Object.hasOwn(says, key) ? says[key as keyof typeof says] : `types ${key}`),
  facts: ({ key }) => ({ types: key }),
  run: ({ key }, world) => world.do({ do: 'key', key }),
})
