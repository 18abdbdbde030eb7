import { ActionIcon, Button, Group, Kbd, Menu, SegmentedControl, SimpleGrid } from '@mantine/core'
import { useKeys } from '../../controls/keys.ts'
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceAround,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceAround,
  Copy,
  Grid3x3,
  RectangleHorizontal,
  RectangleVertical,
  Scan,
  Table2,
  Lock,
  LockOpen,
  Trash2,
  type LucideIcon,
} from 'lucide-react'
import { useState } from 'react'
import type { WidgetId } from '@moth-lamp/core/base'
import type { Page, Project } from '@moth-lamp/core/project'
import { widgetKind, widgetKinds } from '@moth-lamp/core/widgets'
import { Pop } from '../../controls/pop.tsx'
import { shownValues, type Shown } from '../../session/session.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../shell/context.tsx'
import { addWidget, alignments, alignWidgets, deleteWidgets, duplicateWidgets, lockWidgets } from './page-commands.ts'
import { KindPicture } from './kind-picture.tsx'
import { RepeatForm } from './repeat-form.tsx'

/** A letter for each kind, the first of its name that no other has; where there is none, any that is free. */
function kindKeys(): Map<string, string> {
  const taken = new Map<string, string>()
  for (const { kind, label } of widgetKinds()) {
    const isFree = (c: string) => /[a-z]/.test(c) && ![...taken.values()].includes(c)
    const letter = [...label.toLowerCase(), ...'abcdefghijklmnopqrstuvwxyz'].find(isFree)
    if (letter) taken.set(kind, letter)
  }
  return taken
}

/** What can be done on the desk: add, align, repeat, and see other values than those of now. */
export function PageTools({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  const picked = useStore(session.view, (v) => v.widgets)
  const adding = useStore(session.view, (v) => v.adding)
  useKeys([['t', () => session.view.set({ table: true })]])
  if (adding)
    return (
      <Group gap={8}>
        <strong>{widgetKind(adding)?.label}:</strong> click where it is to be, or drag its size.
        <Button onClick={() => session.view.set({ adding: null })}>
          Cancel <Kbd size="xs">Esc</Kbd>
        </Button>
      </Group>
    )
  return (
    <>
      <AddMenu page={page} />
      <ActionIcon
        aria-label="As a table"
        title="the widgets as a table: chosen settings, filled down, pasted (T)"
        onClick={() => session.view.set({ table: true })}
      >
        <Table2 size={15} />
      </ActionIcon>
      {picked.length > 0 ? <ForPicked project={project} page={page} picked={picked} /> : <TouchAreas />}
      <ShownValues />
    </>
  )
}

function AddMenu({ page }: { page: Page }) {
  const session = useSession()
  const [open, setOpen] = useState(false)
  const at = useStore(session.view, (v) => v.addAt)
  const keys = kindKeys()
  useKeys([['a', () => setOpen(true)]])
  const choose = (kind: string) => {
    setOpen(false)
    if (at) return addWidget(session, page, widgetKind(kind)!, at)
    session.view.set({ adding: kind, widgets: [] })
    // The glass takes the focus, so that Enter puts it where there is room.
    requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-glass="edit"]')?.focus({ preventScroll: true }))
  }
  return (
    <Menu
      opened={open || at !== null}
      onChange={(now) => (setOpen(now), !now && session.view.set({ addAt: null }))}
      position="bottom-start"
      width={660}
      returnFocus={false}
    >
      <Menu.Target>
        <Button>
          + Add <Kbd size="xs">A</Kbd>
        </Button>
      </Menu.Target>
      <Menu.Dropdown
        mah="min(640px, calc(100vh - 90px))"
        onKeyDown={(e) => {
          if (e.ctrlKey || e.metaKey) return
          e.stopPropagation()
          const kind = [...keys].find(([, key]) => key === e.key.toLowerCase())?.[0]
          if (!kind) return
          e.preventDefault()
          choose(kind)
        }}
      >
        <SimpleGrid cols={{ base: 1, sm: 2 }} spacing={2} verticalSpacing={0}>
          {widgetKinds().map((kind) => (
            <Menu.Item
              key={kind.kind}
              onClick={() => choose(kind.kind)}
              leftSection={<KindPicture kind={kind.kind} />}
              rightSection={<Kbd size="xs">{keys.get(kind.kind)?.toUpperCase()}</Kbd>}
            >
              <strong>{kind.label}</strong>
              <div className="muted small">{kind.meaning}</div>
            </Menu.Item>
          ))}
        </SimpleGrid>
      </Menu.Dropdown>
    </Menu>
  )
}

const icons: Record<string, LucideIcon> = {
  'Left edges': AlignStartVertical,
  'Middles, across': AlignCenterVertical,
  'Right edges': AlignEndVertical,
  'Top edges': AlignStartHorizontal,
  'Middles, down': AlignCenterHorizontal,
  'Bottom edges': AlignEndHorizontal,
  'Same gaps, across': AlignHorizontalSpaceAround,
  'Same gaps, down': AlignVerticalSpaceAround,
  'Same width': RectangleHorizontal,
  'Same height': RectangleVertical,
}

function ForPicked({ project, page, picked }: { project: Project; page: Page; picked: string[] }) {
  const session = useSession()
  const [repeating, setRepeating] = useState(false)
  const locked = picked.every((id) => project.widgets[id as WidgetId]?.locked)
  useKeys([
    ['r', () => setRepeating(true)],
    ['k', () => lockWidgets(session)],
  ])
  return (
    <>
      <ActionIcon.Group>
        {alignments.map((a) => {
          const Icon = icons[a.label] ?? Scan
          const words = picked.length === 1 ? `${a.label}, on the page` : a.label
          return (
            <ActionIcon
              key={a.label}
              aria-label={a.label}
              title={words}
              disabled={picked.length < a.least}
              onClick={() => alignWidgets(session, a)}
            >
              <Icon size={15} />
            </ActionIcon>
          )
        })}
      </ActionIcon.Group>
      <Pop
        opened={repeating}
        onChange={setRepeating}
        position="bottom-start"
        width={330}
        target={
          <Button onClick={() => setRepeating(!repeating)} leftSection={<Grid3x3 size={14} />}>
            Repeat <Kbd size="xs">R</Kbd>
          </Button>
        }
      >
        {repeating && <RepeatForm project={project} page={page} picked={picked} onDone={() => setRepeating(false)} />}
      </Pop>
      <ActionIcon
        aria-label={locked ? 'Unlock' : 'Lock'}
        title={`${locked ? 'unlock' : 'lock: the pointer and the arrows leave it where it is'} (K)`}
        aria-pressed={locked}
        onClick={() => lockWidgets(session)}
      >
        {locked ? <Lock size={15} /> : <LockOpen size={15} />}
      </ActionIcon>
      <ActionIcon aria-label="Duplicate" title="duplicate (Ctrl D)" onClick={() => duplicateWidgets(session, page)}>
        <Copy size={15} />
      </ActionIcon>
      <ActionIcon aria-label="Delete" title="delete (Del)" onClick={() => deleteWidgets(session)}>
        <Trash2 size={15} />
      </ActionIcon>
    </>
  )
}

/** Which values the desk shows; the wire hears nothing of it. */
function ShownValues() {
  const session = useSession()
  const shown = useStore(session.view, (v) => v.shown)
  return (
    <SegmentedControl
      ml="auto"
      aria-label="Values shown on the desk"
      data={[...shownValues]}
      value={shown}
      onChange={(value) => session.view.set({ shown: value as Shown })}
    />
  )
}

function TouchAreas() {
  const session = useSession()
  const areas = useStore(session.view, (v) => v.areas)
  return (
    <Button aria-pressed={areas} onClick={() => session.view.set({ areas: !areas })} leftSection={<Scan size={14} />}>
      Touch areas <Kbd size="xs">S</Kbd>
    </Button>
  )
}
