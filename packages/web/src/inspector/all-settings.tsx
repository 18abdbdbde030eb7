import { Box, Button, Kbd } from '@mantine/core'
import { useKeys } from '../controls/keys.ts'
import { useState } from 'react'
import { sameJson, type WidgetId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import type { FormField } from '@moth-lamp/core/describe'
import { widgetKind } from '@moth-lamp/core/widgets'
import { FindField } from '../controls/find-field.tsx'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { SettingRow } from './setting-fields.tsx'
import form from '../parts/fields.module.css'

/** Opens all settings of the selection in place of its signal path; `/` does the same. */
export function AllSettingsButton() {
  const session = useSession()
  const open = () => session.view.set({ column: 'settings', sought: '' })
  useKeys([['/', open]])
  return (
    <Button fullWidth justify="space-between" onClick={open} rightSection={<span className="key">/</span>}>
      All settings
    </Button>
  )
}

/** Every setting of what is selected by group, found by a part of its name, in place of the signal path; Escape leads back. */
export function AllSettings({ project, ids }: { project: Project; ids: string[] }) {
  const session = useSession()
  const sought = useStore(session.view, (v) => v.sought)
  const [find, setFind] = useState(sought)
  const close = () => {
    session.view.set({ column: 'path', sought: '' })
    document.querySelector<HTMLElement>('[data-station-home]')?.focus({ preventScroll: true })
  }
  useKeys([['/', close]])
  const widgets = ids.map((id) => project.widgets[id as WidgetId]).filter((w): w is Widget => w !== undefined)
  const first = widgets[0]
  if (!first) return null
  const matching = sharedSettings(widgets).filter((s) => `${s.label} ${s.group}`.toLowerCase().includes(find.toLowerCase()))
  const row = (s: FormField) => (
    <SettingRow
      key={`${ids.join()} ${s.key}`}
      setting={s}
      value={first.settings[s.key]}
      mixed={widgets.some((w) => !sameJson(w.settings[s.key], first.settings[s.key]))}
      nameHint={first.name}
      siblings={first.settings}
      onChange={(value) =>
        session.edit('set widgets', {
          ids: widgets.map((w) => w.id),
          values: { ...partsThatDiffer(s, first.settings[s.key], value), ...s.brings },
        })
      }
    />
  )
  const groups = [...new Set(matching.map((s) => s.group))]
  return (
    <section
      aria-label="Settings"
      onKeyDown={(e) => {
        if (e.key !== 'Escape' || e.defaultPrevented) return
        e.preventDefault()
        close()
      }}
    >
      <div className="row">
        <h2 className="grow">All settings</h2>
        <Button size="compact-xs" variant="subtle" onClick={close}>
          Close <Kbd size="xs">Esc</Kbd>
        </Button>
      </div>
      <p className="muted small cut">{widgets.length === 1 ? first.name : `${widgets.length} widgets`}</p>
      <Box py={6} px={0}>
        <FindField label="Find a setting" placeholder="Find a setting …" value={find} onChange={setFind} onLeave={close} first />
      </Box>
      {groups.map((group) => (
        <div key={group}>
          <div className={form.group}>{group}</div>
          {matching.filter((s) => s.group === group).map(row)}
        </div>
      ))}
      {!matching.length && <p className="muted">No match</p>}
    </section>
  )
}

/** Of a face only the parts that were touched are set, so that several keep what else they have. */
function partsThatDiffer({ key, type }: FormField, from: unknown, to: unknown): Record<string, unknown> {
  if (type.name !== 'face') return { [key]: to }
  const [before, after] = [from, to] as Record<string, unknown>[]
  const parts = Object.entries(after!).filter(([part, value]) => !sameJson(value, before![part]))
  return Object.fromEntries(parts.map(([part, value]) => [`${key}/${part}`, value]))
}

/** Settings that all the selected have, of the same type. */
function sharedSettings(widgets: Widget[]): FormField[] {
  const lists = widgets.map((w) => widgetKind(w.kind)?.settings.list ?? [])
  return (lists[0] ?? []).filter((s) => lists.every((list) => list.some((o) => o.key === s.key && o.type === s.type)))
}
