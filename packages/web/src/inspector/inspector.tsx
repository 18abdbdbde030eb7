import { FindField } from '../controls/find-field.tsx'
import { useState } from 'react'
import { sameJson, type WidgetId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import type { FormField } from '@moth-lamp/core/describe'
import { widgetKind } from '@moth-lamp/core/widgets'
import { useSession } from '../shell/context.tsx'
import { SettingRow } from './setting-fields.tsx'

/** Every setting of what is selected: the essential ones first, the others by group, found by a part of their name. */
export function Inspector({ project, ids }: { project: Project; ids: string[] }) {
  const session = useSession()
  const [find, setFind] = useState('')
  const widgets = ids.map((id) => project.widgets[id as WidgetId]).filter((w): w is Widget => w !== undefined)
  const first = widgets[0]
  if (!first) return null
  const shared = sharedSettings(widgets)
  const matching = shared.filter((s) => `${s.label} ${s.group}`.toLowerCase().includes(find.toLowerCase()))
  const set = (key: string, value: unknown) =>
    session.edit('set widgets', { ids: widgets.map((w) => w.id), values: { [key]: value } })
  const row = (s: FormField) => (
    <SettingRow
      key={`${ids.join()} ${s.key}`}
      setting={s}
      value={first.settings[s.key]}
      mixed={widgets.some((w) => !sameJson(w.settings[s.key], first.settings[s.key]))}
      nameHint={first.name}
      beside={first.settings}
      onChange={(value) => set(s.key, value)}
    />
  )
  const essential = matching.filter((s) => s.essential)
  const groups = [...new Set(matching.filter((s) => !s.essential).map((s) => s.group))]
  return (
    <section className="settings" aria-label="Settings">
      <div className="row">
        <FindField label="Find a setting" value={find} onChange={setFind} placeholder="All settings …" />
      </div>
      {widgets.length > 1 && <p className="muted small">{widgets.length} selected: what they share.</p>}
      <div style={{ height: 6 }} />
      {essential.map(row)}
      {groups.map((group) => (
        <div key={group}>
          <div className="group">{group}</div>
          {matching.filter((s) => !s.essential && s.group === group).map(row)}
        </div>
      ))}
      {!matching.length && <p className="muted">No setting has that name.</p>}
    </section>
  )
}

/** Settings that all the selected have, of the same type. */
function sharedSettings(widgets: Widget[]): FormField[] {
  const lists = widgets.map((w) => widgetKind(w.kind)?.settings.list ?? [])
  return (lists[0] ?? []).filter((s) => lists.every((list) => list.some((o) => o.key === s.key && o.type === s.type)))
}
