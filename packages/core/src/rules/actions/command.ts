import { described, settingTypes as t } from '../../settings/index.ts'
import { actionOf, named } from '../action.ts'

/** Sends a command to the host, with the values that its variables have then. */
export const sendCommand = actionOf({
  action: 'send command',
  label: 'sends a command',
  settings: described({ command: { label: 'command', before: '', type: t.command, default: '', group: 'Action' } }),
  words: ({ command }, nameOf) => `sends the command ${named(command, nameOf)}`,
  facts: ({ command }) => (command ? { orders: command } : {}),
  run({ command }, world) {
    if (command !== null) world.do({ do: 'command', number: command })
  },
})
