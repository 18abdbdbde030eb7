import { Box, Button, Collapse } from '@mantine/core'
import { useKeys } from '../controls/keys.ts'
import { useState } from 'react'
import { sameJson, type WidgetId } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import type { FormField } from '@moth-lamp/core/describe'
import { widgetKind } from '@moth-lamp/core/widgets'
import { FindField } from '../controls/find-field.tsx'
import { useSession } from '../session/context.tsx'
import { SettingRow } from './setting-fields.tsx'
import form from '../parts/fields.module.css'

/** Every setting of what is selected by group, found by a part of its name; closed until it is asked for. */
export function Inspector({ project, ids }: { project: Project; ids: string[] }) {
  const session = useSession()
  const [open, setOpen] = useState(false)
  const [find, setFind] = useState('')
  /** Opened by its key: then what is typed next is what is sought. */
  const [byKey, setByKey] = useState(false)
  useKeys([['/', () => (setOpen((was) => !was), setByKey(true))]])
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
      beside={first.settings}
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
    <section className={form.settings} aria-label="Settings">
      <Button
        fullWidth
        justify="space-between"
        aria-expanded={open}
        onClick={() => (setOpen(!open), setByKey(false))}
        rightSection={<span className="key">/</span>}
      >
        All settings
      </Button>
      <Collapse expanded={open} transitionDuration={0}>
        {open && (
          <>
            <Box py={6} px={0}>
              <FindField label="Find a setting" placeholder="Find a setting …" value={find} onChange={setFind} first={byKey} />
            </Box>
            {groups.map((group) => (
              <div key={group}>
                <div className={form.group}>{group}</div>
                {matching.filter((s) => s.group === group).map(row)}
              </div>
            ))}
            {!matching.length && <p className="muted">No match</p>}
          </>
        )}
      </Collapse>
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
