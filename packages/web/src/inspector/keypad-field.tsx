import { ActionIcon, Group, Menu } from '@mantine/core'
import { Plus } from 'lucide-react'
import { keypads } from '@moth-lamp/core/project'
import { PagePicker } from '../controls/pickers.tsx'
import { Items } from '../controls/pop.tsx'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../session/context.tsx'
import { addKeypad } from '../commands/add-commands.ts'
import type { FieldProps } from './field.ts'

/** The keypad that an entry opens: one that there is, or a new one of the kind that its value needs. */
export function KeypadField({ setting, value, mixed, onChange }: FieldProps) {
  const session = useSession()
  const { label } = setting
  const picked = useStore(session.view, (v) => v.widgets)
  return (
    <Group gap={4} wrap="nowrap">
      <div className="grow">
        <PagePicker
          project={useProject()}
          label={label}
          value={mixed ? '' : String(value)}
          accepts={setting.accepts}
          onChange={onChange}
        />
      </div>
      <Menu position="bottom-end" width={300}>
        <Menu.Target>
          <ActionIcon size={25} variant="default" aria-label="New keypad" title="New keypad">
            <Plus size={13} />
          </ActionIcon>
        </Menu.Target>
        <Items>
          <Menu.Label>New keypad (edit it like a page)</Menu.Label>
          {keypads.map(({ kind, label, meaning }) => (
            <Menu.Item key={kind} onClick={() => void addKeypad(session, kind, picked)}>
              {label} <span className="muted small">{meaning}</span>
            </Menu.Item>
          ))}
        </Items>
      </Menu>
    </Group>
  )
}
