import { wordsToPayload, type Result } from '@moth-lamp/core/base'
import type { LineForm, Message } from '@moth-lamp/core/frames'
import { orderOf, type Project, type Variable } from '@moth-lamp/core/project'
import type { Protocol } from '@moth-lamp/core/protocols'
import { emptyWords, encodeValue, wordsOf } from '@moth-lamp/core/variables'
import { valueProblemWords } from '../../controls/value-words.ts'

/** The line that a form makes of something in the project; why there is none. */
export function exampleLine(project: Project, protocol: Protocol, form: LineForm): { bytes: Uint8Array | null; why: string } {
  const message = exampleOf(project, form)
  if (!message) return { bytes: null, why: 'No variable or widget of this project is said so.' }
  const made: Result<Uint8Array> = protocol.encode(form.directions[0]!, message)
  if (made.ok) return { bytes: made.value, why: '' }
  return { bytes: null, why: valueProblemWords(made.problem) }
}

function exampleOf(project: Project, { operation, types }: LineForm): Message | null {
  const sequence = 3
  if (operation === 'event') {
    const widget = Object.values(project.widgets)[0]
    return widget ? { operation, sequence, address: widget.number, what: 'pressed' } : null
  }
  if (operation === 'message') return { operation, sequence, address: 2, payload: [10, 0] }
  const fits = ({ holds }: Variable): boolean =>
    operation === 'set bits' ? holds.type === 'flags' : !types.length || types.includes(holds.type)
  const variable = project.variableOrder.map((id) => project.variables[id]!).find(fits)
  if (!variable) return null
  const { address, holds, initial } = variable
  switch (operation) {
    case 'set bits':
      return { operation, sequence, address, mask: 1, bits: 1 }
    case 'ask':
      return { operation, sequence, address, words: wordsOf(holds) }
    case 'done':
      return { operation, sequence, address }
    case 'refused':
      return { operation, sequence, address, reason: 'busy' }
    default: {
      const words = encodeValue(holds, initial, orderOf(project.panel, variable))
      return {
        operation,
        sequence,
        address,
        payload: wordsToPayload(words.ok ? words.value : emptyWords(holds), project.panel.order),
      }
    }
  }
}
