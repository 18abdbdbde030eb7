import { sortedLetters } from '@moth-lamp/core/artwork'
import type { WidgetId } from '@moth-lamp/core/base'
import { sheetKey, type ArtworkPlan, type FontPart } from '@moth-lamp/core/compile'
import type { TypeStyle } from '@moth-lamp/core/palette'
import { fontOf, letterSpecOf, typefaceOf, withSettings, type Project, type Widget } from '@moth-lamp/core/project'
import type { FontChoice, FontSetting } from '@moth-lamp/core/settings'
import { formatValue, systemVariable, type Holds } from '@moth-lamp/core/variables'
import { boundTo, widgetKind } from '@moth-lamp/core/widgets'
import type { LetterSpec } from '@moth-lamp/core/artwork'

/** A widget that is written in a font, and which of its settings says so. */
export interface FontUser {
  widget: Widget
  key: string
  /** The longest texts it may show, line by line. */
  texts: readonly string[]
  /** Its sample text. */
  says: string
}

/** A font of the project, or one that widgets have by themselves. */
export interface FontInUse {
  /** Id of the font of the project; of one without a name, what it is made of. */
  id: string
  style: TypeStyle | null
  name: string
  font: FontChoice
  spec: LetterSpec
  users: readonly FontUser[]
  /** Its chunk on the panel; undefined: nothing is written in it, or it is being made. */
  part: FontPart | undefined
}

/** Every font there is, those of the project first. */
export function fontsOf(stored: Project, plan: ArtworkPlan | null): FontInUse[] {
  const project = withSettings(stored)
  const users = usersByFont(project)
  const made = (id: string, style: TypeStyle | null, setting: FontSetting): FontInUse[] => {
    const spec = letterSpecOf(project, setting)
    if (!spec) return []
    const font = fontOf(project, setting)
    const name = style?.name ?? `${typefaceOf(project, setting)?.name ?? ''} ${font.size}`
    const part = plan?.fonts.find(({ key }) => key === sheetKey(spec))
    return [{ id, style, name, font, spec, users: users.get(id)?.users ?? [], part }]
  }
  return [
    ...project.styleOrder.flatMap((id) => made(id, project.styles[id]!, id)),
    ...[...users].flatMap(([id, { setting }]) => (typeof setting === 'string' ? [] : made(id, null, setting))),
  ]
}

function usersByFont(project: Project): Map<string, { setting: FontSetting; users: FontUser[] }> {
  const found = new Map<string, { setting: FontSetting; users: FontUser[] }>()
  const holdsOf = (id: string): Holds | null =>
    project.variables[id as keyof typeof project.variables]?.holds ?? systemVariable(id)?.holds ?? null
  for (const widget of Object.values(project.widgets)) {
    const kind = widgetKind(widget.kind)
    for (const { key, type } of kind?.settings.list ?? []) {
      const setting = widget.settings[key] as FontSetting
      if (type.name !== 'font' || (typeof setting !== 'string' && !setting.typeface)) continue
      const id = typeof setting === 'string' ? setting : JSON.stringify(setting)
      const texts = (kind?.widest?.(widget.settings, holdsOf) ?? []).flatMap((text) => text.split('\n')).filter(Boolean)
      const user = { widget, key, texts, says: startOf(project, widget) ?? texts[0] ?? '' }
      const known = found.get(id)
      if (known) known.users.push(user)
      else found.set(id, { setting, users: [user] })
    }
  }
  return found
}

/** The value that a widget has at the start, as it is written; null where it shows no variable of its own. */
function startOf(project: Project, widget: Widget): string | null {
  const variable = project.variables[boundTo(widget) as keyof typeof project.variables]
  return variable ? formatValue(variable.holds, variable.initial) : null
}

/** Texts of a font, each once, in the order of those who show them. */
export const textsOf = ({ users }: FontInUse): string[] => [...new Set(users.flatMap(({ texts }) => texts))]

/** The letters it has: those of the build, or those of its texts until that is made. */
export const lettersOf = (font: FontInUse): string =>
  font.part?.letters ?? sortedLetters(textsOf(font).join('') + (font.style?.more ?? ''))

/** Some of what is written in it at the start, as much as is read in one line. */
export function sampleOf(font: FontInUse): string {
  let line = ''
  for (const text of new Set(font.users.map(({ says }) => says).filter(Boolean))) {
    if (line && line.length + text.length > 26) break
    line += `${line ? '  ' : ''}${text}`
  }
  return line || font.name
}

/** Values that set widgets to a named font. */
export const keysOf = ({ users }: FontInUse): Record<WidgetId, string[]> => {
  const keys: Record<WidgetId, string[]> = {}
  for (const { widget, key } of users) (keys[widget.id] ??= []).push(key)
  return keys
}
