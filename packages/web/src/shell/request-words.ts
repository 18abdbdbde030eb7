import { nameOfId } from '@moth-lamp/core/signal-path'
import type { Project, Request } from '@moth-lamp/core/project'

const idForm = /^(page|widget|variable|exchange|step|typeface|colour|style|quantity|reaction|output):/

/** The name of what an edit was about; what is gone is called by its kind. */
function named(project: Project, id: string): string {
  const name = nameOfId(project, id)
  return name === id ? `a deleted ${id.slice(0, id.indexOf(':'))}` : `“${name}”`
}

const valueWords = (project: Project, value: unknown): string =>
  typeof value === 'string'
    ? idForm.test(value)
      ? named(project, value)
      : `“${value}”`
    : typeof value === 'object'
      ? '(changed)'
      : String(value)

type Place = Partial<Record<'x' | 'y' | 'width' | 'height', number>>

/** ` to 420, 114`, or only the sides that the edit moves. */
function placeWords({ x, y, width, height }: Place): string {
  const to = x !== undefined && y !== undefined ? [`to ${x}, ${y}`] : [x !== undefined && `x ${x}`, y !== undefined && `y ${y}`]
  const size = [width !== undefined && `w ${width}`, height !== undefined && `h ${height}`]
  return ` ${[...to, ...(x !== undefined && y !== undefined ? [] : size)].filter(Boolean).join(', ')}`
}

/** An edit as a sentence: `Place widgets “Target” to 420, 114`, `Set variable “wind”: address 16`. */
export function requestWords(project: Project, { edit, args }: Request): string {
  const given = args as Record<string, unknown>
  const places = (given['places'] ?? {}) as Record<string, Place>
  const each = Object.keys((given['each'] ?? {}) as object)
  const ids = [given['id'], ...((given['ids'] as unknown[]) ?? []), ...Object.keys(places), ...each].filter(
    (id) => typeof id === 'string',
  )
  const values = Object.entries((given['values'] ?? {}) as Record<string, unknown>)
  const whose = ids.length > 3 ? `${ids.length} items` : ids.map((id) => named(project, id)).join(', ')
  const [first] = Object.values(places)
  const where = first && Object.keys(places).length === 1 ? placeWords(first) : ''
  const what = values.map(([key, value]) => `${key} ${valueWords(project, value)}`).join(', ')
  return `${edit[0]!.toUpperCase()}${edit.slice(1)}${whose ? ` ${whose}` : ''}${where}${what ? `: ${what}` : ''}`
}
