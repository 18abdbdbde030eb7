import type { Problem } from '../../base/index.ts'
import type { LineForm, LinePart, LinesWay } from '../../frames/index.ts'
import { linePartKind } from './parts/table.ts'
import { spellingSettings } from './spelling.ts'

/**
 * Why a way of lines cannot be used, in coded reasons. Codes: layout.no-end, layout.longest, layout.gap, layout.empty,
 * layout.name-template, layout.spelling, layout.end-inside, layout.needs, layout.stray-part, layout.twice, layout.open-part,
 * layout.quote-gap, layout.pair-gap, layout.empty-line.
 */
export function checkLines(way: LinesWay): Problem[] {
  const problems: Problem[] = []
  const say = (code: string, facts: Problem['facts'] = {}) => void problems.push({ code: `layout.${code}`, facts })
  if (!way.end.length) say('no-end')
  if (way.longest < 16 || way.longest > 1024) say('longest', { most: way.longest })
  if (way.gapUs < 1000 || way.gapUs > 10_000_000) say('gap', { gapUs: way.gapUs })
  if (!way.names.template.includes('{name}')) say('name-template')
  if (spellingSettings.schema.validate(way.spelling, { convert: false }).error) say('spelling')
  if (!way.forms.length) say('empty')
  for (const form of way.forms) checkForm(way, form, say)
  return problems
}

type Say = (code: string, facts?: Problem['facts']) => void

const constantOf = (part: LinePart | undefined): string => (part && linePartKind(part.part)?.constant?.(part)) || ''

function checkForm(way: LinesWay, { operation, parts }: LineForm, say: Say): void {
  const has = (kind: string) => parts.some(({ part }) => part === kind || linePartKind(part)?.stands?.includes(kind))
  if (!parts.some(({ part }) => way.checks !== 'off' || part !== 'check')) say('empty-line', { operation })
  const never = [...way.start, ...way.end, ...way.ignored]
  for (const part of parts) {
    const kind = linePartKind(part.part)
    if (!kind) say('stray-part', { operation, part: part.part })
    else if (kind.onlyIn && !kind.onlyIn.includes(operation)) say('stray-part', { operation, part: kind.label })
    if ([...constantOf(part)].some((c) => never.includes(c.charCodeAt(0))))
      say('end-inside', { operation, text: constantOf(part) })
  }
  const once = parts
    .filter(({ part }) => !linePartKind(part)?.many)
    .flatMap(({ part }) => [part, ...(linePartKind(part)?.stands ?? [])])
  for (const part of new Set(once)) if (once.filter((other) => other === part).length > 1) say('twice', { operation, part })
  for (const part of needed(operation, has)) say('needs', { operation, part })
  parts.forEach((part, k) => {
    const kind = linePartKind(part.part)
    const behind = parts.slice(k + 1)
    const isQuoted = part.part === 'value' && way.spelling['text'] === 'quoted'
    if (isQuoted && [constantOf(parts[k - 1]).at(-1), constantOf(behind[0])[0]].includes('"')) say('quote-gap', { operation })
    const separator = kind?.separates?.(part as never)
    const next = constantOf(behind[0])
    if (separator && next && (next.startsWith(separator) || separator.startsWith(next)))
      say('pair-gap', { operation, text: separator })
    if (!kind?.isOpen || !behind.length || next) return
    if (!behind.every((next) => linePartKind(next.part)?.size)) say('open-part', { operation, part: kind.label })
  })
}

/** Parts that a line lacks, without which nobody could act on it. */
function needed(operation: LineForm['operation'], has: (part: string) => boolean): string[] {
  const lacks: string[] = []
  const addressed = ['write', 'set bits', 'ask', 'value', 'report'].includes(operation)
  if (addressed && !has('name')) lacks.push('name')
  if (['write', 'value', 'report'].includes(operation) && !has('value') && !has('hex data') && !has('raw bytes'))
    lacks.push('value')
  if (operation === 'set bits' && !has('value')) lacks.push('value')
  if (operation === 'event' && !has('name') && !has('number')) lacks.push('name')
  if (operation === 'event' && !has('what')) lacks.push('event')
  if (operation === 'refused' && !has('reason')) lacks.push('reason')
  if (operation === 'message' && !has('number')) lacks.push('number')
  return lacks
}
