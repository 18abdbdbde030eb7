import type { Project } from '@moth-lamp/core/project'
import type { StepKind } from '@moth-lamp/core/scripts'
import { isNumber, type Holds } from '@moth-lamp/core/variables'
import type { WireEntry } from '../../worker/messages.ts'

/** A value that was said, as it is typed: a number without its unit, anything else as it is. */
export function typedOf(holds: Holds, said: string): string {
  const unit = isNumber(holds) ? holds.unit : ''
  return unit && said.endsWith(unit) ? said.slice(0, -unit.length).trim() : said
}

/** The step that expects a frame of the run. */
export function expectationOf(
  project: Project,
  { message, said, direction }: WireEntry,
): { kind: StepKind; values: Record<string, unknown> } | null {
  if (!message || !said) return null
  const found = Object.values(project.variables).find((v) => v.name === said.name)
  const variable = found?.id
  const value = found ? typedOf(found.holds, said.value) : said.value
  switch (message.operation) {
    case 'report':
      return variable ? { kind: 'expect report', values: { variable, value } } : null
    case 'write':
      return variable ? { kind: 'expect memory', values: { variable, value } } : null
    case 'event': {
      const widget = Object.values(project.widgets).find((w) => w.number === message.address)?.id
      return widget ? { kind: 'expect event', values: { widget, what: message.what } } : null
    }
    case 'done':
    case 'refused':
      return {
        kind: 'expect answer',
        values: {
          from: direction === 'to panel' ? 'host' : 'panel',
          answer: message.operation,
          ...(message.operation === 'refused' ? { reason: message.reason } : {}),
        },
      }
    default:
      return null
  }
}
