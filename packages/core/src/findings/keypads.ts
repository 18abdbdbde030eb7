import { doesFollow } from '../describe/index.ts'
import type { PageId } from '../base/index.ts'
import type { Project, Widget } from '../project/index.ts'
import { factsOf } from '../rules/index.ts'
import { isNumber, type Holds } from '../variables/index.ts'
import { boundTo, rawOf } from '../widgets/index.ts'
import { rulesOf, widgetsOf, type Check, type Finding } from './finding.ts'

/** Characters that a keypad and the keypads it leads to can type. */
function keysOf(project: Project, keypad: PageId): Set<string> {
  const keys = new Set<string>()
  const pages = new Set<PageId>([keypad])
  for (const id of pages)
    for (const widget of project.pages[id]?.widgets ?? [])
      for (const { types, opens } of rulesOf(project.widgets[widget]!).flatMap(({ lines }) => lines.map(factsOf))) {
        if (types !== undefined) keys.add(types)
        const next = opens as PageId
        if (project.pages[next]?.kind === 'keypad') pages.add(next)
      }
  return keys
}

const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ']
const either = (keys: ReadonlySet<string>, letter: string) => keys.has(letter) || keys.has(letter.toLowerCase())

/** Keys that an entry needs and its keypad lacks, in words; '' where none is missing. */
function lacking(keys: ReadonlySet<string>, widget: Widget, holds: Holds): string {
  if (!keys.has('accept')) return 'an Enter key'
  if (holds.type === 'text') return letters.some((l) => either(keys, l)) ? '' : 'letters A to Z'
  if (!isNumber(holds)) return ''
  const raw = rawOf(widget) as { base?: string; ends?: string; from?: unknown }
  const hexadecimal = raw.base === 'hexadecimal'
  if (hexadecimal && !letters.slice(0, 6).every((l) => either(keys, l))) return 'the letters A to F'
  const least = raw.ends === 'its own' && !doesFollow(raw.from) ? Math.max(holds.min, Number(raw.from)) : holds.min
  if (least < 0 && !keys.has('sign') && !keys.has('-')) return 'a sign key (negative values allowed)'
  if (!hexadecimal && holds.decimals > 0 && !keys.has('.') && !keys.has(',')) return 'a decimal point (the value has decimals)'
  return [...'0123456789'].every((figure) => keys.has(figure)) ? '' : 'all digits'
}

/** An entry whose keypad cannot type what its variable may be. */
export const keypadLacks: Check = ({ project }) => {
  const known = new Map<string, Set<string>>()
  const keys = (id: PageId) => known.get(id) ?? known.set(id, keysOf(project, id)).get(id)!
  return widgetsOf(project).flatMap((w): Finding[] => {
    const keypad = w.settings['keypad'] as PageId | undefined
    const holds = project.variables[boundTo(w) as keyof typeof project.variables]?.holds
    const page = keypad && project.pages[keypad]
    if (!page || !holds) return []
    const what = lacking(keys(page.id), w, holds)
    if (!what) return []
    const other = project.pageOrder.find((id) => project.pages[id]!.kind === 'keypad' && !lacking(keys(id), w, holds))
    return [
      {
        code: 'keypad-lacks',
        severity: 'warning',
        station: 'Pages',
        at: w.id,
        facts: { name: w.name, keypad: page.name, what },
        fix: other
          ? {
              label: `Use ${project.pages[other]!.name}`,
              edit: 'set widgets',
              args: { ids: [w.id], values: { keypad: other } },
            }
          : null,
      },
    ]
  })
}
