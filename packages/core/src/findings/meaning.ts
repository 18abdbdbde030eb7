import type { VariableId } from '../base/index.ts'
import { doesFollow } from '../describe/index.ts'
import type { Widget } from '../project/index.ts'
import { factsOf, type Line } from '../rules/index.ts'
import { formatDecimals, isNumber, noneValue, type Holds } from '../variables/index.ts'
import { widgetKind, type State } from '../widgets/index.ts'
import { rulesOf, widgetsOf, type Check, type Finding } from './finding.ts'

const plainWords = (text: unknown): string => (typeof text === 'string' ? text.trim().toLowerCase() : '')

/** Meaning of a button's text: a state of a variable, or a command. */
interface Said {
  widget: Widget
  variable: string
  words: string
}

/** The words of a button that is the state: what its variable is now. */
const statesSaid = (w: Widget): Said[] => {
  const variable = String(w.settings['shows'] || w.settings['variable'] || '')
  const states = (w.settings['states'] as readonly State[] | undefined) ?? []
  return variable ? states.map(({ meaning }) => ({ widget: w, variable, words: plainWords(meaning) })) : []
}

/** The words of a button that names what it does: one value, set by a touch. */
function orderSaid(w: Widget): Said[] {
  if ((w.settings['states'] as readonly State[]).length) return []
  const words = plainWords(w.settings['text'])
  const own = w.settings['works'] === 'sets its value' ? [String(w.settings['variable'])] : []
  const lines = rulesOf(w).flatMap((rule) => rule.lines)
  const set = lines.flatMap((line) => factsOf(line).sets?.variable ?? [])
  return words ? [...own, ...set].map((variable) => ({ widget: w, variable, words })) : []
}

/** A word that on one page says how something is, and on another what a touch would make of it. */
export const stateOrAction: Check = ({ project }) => {
  const buttons = widgetsOf(project).filter((w) => w.kind === 'button')
  const states = buttons.flatMap(statesSaid)
  return buttons.flatMap(orderSaid).flatMap((order): Finding[] => {
    const state = states.find(
      ({ widget, variable, words }) => variable === order.variable && words === order.words && widget.page !== order.widget.page,
    )
    if (!state) return []
    const { widget } = order
    return [
      {
        code: 'state-or-action',
        severity: 'advice',
        station: 'Pages',
        at: widget.id,
        facts: {
          name: widget.name,
          words: String(widget.settings['text']),
          other: state.widget.name,
          page: project.pages[state.widget.page]!.name,
        },
        fix: null,
      },
    ]
  })
}

/** Ends of ranges that are what a converter counts to, not what anyone measures: 2^n − 1 for 8, 10, 12, 14, 15, 16, 24 bits. */
const counts = [0xff, 0x3ff, 0xfff, 0x3fff, 0x7fff, 0xffff, 0xff_ffff]
const isCount = (max: number): boolean => counts.includes(max)

/** A unit on what counts only: nobody has said how much of the unit one count is. */
export const unitWithoutScale: Check = ({ project }) =>
  project.variableOrder.flatMap((id): Finding[] => {
    const { name, holds } = project.variables[id]!
    if (!isNumber(holds) || holds.type === 'f32' || !holds.unit) return []
    if (holds.factor !== 1 || holds.offset !== 0 || !isCount(holds.max)) return []
    return [
      {
        code: 'unit-unscaled',
        severity: 'advice',
        station: 'Variables',
        at: id,
        facts: { name, unit: holds.unit, most: holds.max },
        fix: null,
      },
    ]
  })

/** A number that means no value although it may be one. */
export const noneInRange: Check = ({ project }) =>
  project.variableOrder.flatMap((id): Finding[] => {
    const { name, holds } = project.variables[id]!
    const none = isNumber(holds) ? noneValue(holds) : null
    if (!isNumber(holds) || none === null || none < holds.min || none > holds.max) return []
    return [
      {
        code: 'none-in-range',
        severity: 'warning',
        station: 'Variables',
        at: id,
        facts: { name, value: formatDecimals(none, holds.decimals), word: holds.none!.word },
        fix: null,
      },
    ]
  })

const namedMask = (holds: Holds): number =>
  holds.type === 'flags' ? holds.names.reduce((mask, name, bit) => (name ? mask | (1 << bit) : mask), 0) : 0
const bitsIn = (mask: number): number => [...(mask >>> 0).toString(2)].filter((bit) => bit === '1').length

/** A touch that sets the whole of a word of flags, and with it those that are not its own. */
export const setsWholeWord: Check = ({ project }) =>
  widgetsOf(project).flatMap((w): Finding[] => {
    const rules = rulesOf(w)
    const whole = (line: Line) => {
      const { sets } = factsOf(line)
      const holds = sets && project.variables[sets.variable as keyof typeof project.variables]?.holds
      return holds?.type === 'flags' && !doesFollow(sets?.to) && bitsIn(namedMask(holds)) > 1 ? holds : null
    }
    const first = rules.flatMap(({ lines }) => lines).find(whole)
    if (!first) return []
    const byMask = (line: Line): Line[] => {
      const holds = whole(line)
      if (!holds) return [line]
      const { variable, to } = line.with
      const [named, wanted] = [namedMask(holds), Number(to)]
      const action = (name: string, mask: number, id: string | undefined): Line[] =>
        mask ? [{ ...(id ? { id } : {}), action: name, with: { variable, mask } }] : []
      return [
        ...action('set bits', wanted & 0xffff, line.id),
        ...action('clear bits', named & ~wanted, wanted & 0xffff ? undefined : line.id),
      ]
    }
    const { name } = project.variables[first.with['variable'] as keyof typeof project.variables]!
    const mended = rules.map((rule) => ({ ...rule, lines: rule.lines.flatMap(byMask) }))
    return [
      {
        code: 'whole-word',
        severity: 'warning',
        station: 'Pages',
        at: w.id,
        facts: { name: w.name, variable: name },
        fix: {
          label: 'Write only named bits',
          edit: 'set widgets',
          args: { ids: [w.id], values: { rules: mended } },
        },
      },
    ]
  })

/** A variable whose type a widget can do nothing with: it became another after it was bound. */
export const unfitVariable: Check = ({ project }) =>
  widgetsOf(project).flatMap((w) =>
    (widgetKind(w.kind)?.settings.list ?? []).flatMap(({ key, accepts }): Finding[] => {
      const variable = project.variables[w.settings[key] as VariableId]
      if (!accepts?.length || !variable || accepts.includes(variable.holds.type)) return []
      return [
        {
          code: 'unfit',
          severity: 'error',
          station: 'Pages',
          at: w.id,
          facts: { name: w.name, variable: variable.name, type: variable.holds.type },
          fix: null,
        },
      ]
    }),
  )

/** Two values of the simulated host that move one variable: each undoes what the other does. */
export const sharedQuantity: Check = ({ project }) => {
  const { quantities, quantityOrder } = project.host
  const all = quantityOrder.map((id) => quantities[id]!)
  return all.flatMap((quantity, k): Finding[] => {
    const variable = project.variables[quantity.settings.variable as VariableId]
    if (!variable || !all.slice(0, k).some((other) => other.settings.variable === variable.id)) return []
    return [
      {
        code: 'quantity-twice',
        severity: 'warning',
        station: 'Variables',
        at: variable.id,
        facts: { name: variable.name },
        fix: { label: 'Delete one', edit: 'delete from host', args: { part: 'quantities', id: quantity.id } },
      },
    ]
  })
}
