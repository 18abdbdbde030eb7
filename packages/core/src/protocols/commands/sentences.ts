/** Why the content of a command cannot be used, by the code of the problem. */
export const commandSentences: Readonly<Record<string, string>> = {
  'command.open': 'Nothing tells where “{name}” ends: put a constant behind it, or give it a length.',
  'command.factor': 'The factor of “{name}” is 0.',
  'command.size': '“{name}” has 1 to {most} bytes.',
  'command.values': '{count} values; the command has {most}.',
}
