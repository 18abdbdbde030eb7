import { ActionIcon, Button, Group, Kbd, SegmentedControl } from '@mantine/core'
import { useKeys } from '../../controls/keys.ts'
import { Copy, Group as GroupTogether, Scan, Scissors, Table2, Lock, LockOpen, Trash2, Ungroup } from 'lucide-react'
import { memo } from 'react'
import type { WidgetId } from '@moth-lamp/core/base'
import type { Page, Project } from '@moth-lamp/core/project'
import { shownTexts, shownValues, type Shown } from '../../session/state.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { labelOf } from '../../commands/add-commands.ts'
import { AlignIcon } from './align-icon.tsx'
import { alignments, alignWidgets, areHeld, deleteWidgets, duplicateWidgets, holdWidgets, lockWidgets } from './page-commands.ts'

/** Tools of the desk: add, align, repeat, and see other values than those of now. */
export function PageTools({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  const picked = useStore(session.view, (v) => v.widgets)
  const adding = useStore(session.view, (v) => v.adding)
  useKeys([['t', () => session.view.set({ table: true })]])
  if (adding)
    return (
      <Group gap={8}>
        <strong>{labelOf(adding)}:</strong> click to place, or drag a size.
        <Button onClick={() => session.view.set({ adding: null, addingFor: '', addAt: null, column: 'path' })}>
          Cancel <Kbd size="xs">Esc</Kbd>
        </Button>
      </Group>
    )
  return (
    <>
      <AddButton />
      <ActionIcon aria-label="Table view" title="Table view (T)" onClick={() => session.view.set({ table: true })}>
        <Table2 size={15} />
      </ActionIcon>
      {picked.length > 0 ? <ForPicked project={project} page={page} picked={picked} /> : <TouchAreas />}
      <ShownValues />
    </>
  )
}

/** Opens the list of what can be added, in the column. */
function AddButton() {
  const session = useSession()
  const open = useStore(session.view, (v) => v.column === 'add')
  const add = () => session.view.set({ column: 'add', columns: true })
  useKeys([['a', add]])
  return (
    <Button data-add aria-expanded={open} onClick={add}>
      + Add <Kbd size="xs">A</Kbd>
    </Button>
  )
}

function ForPicked({ project, page, picked }: { project: Project; page: Page; picked: string[] }) {
  const session = useSession()
  const column = useStore(session.view, (v) => v.column)
  const open = (form: 'repeat' | 'slice') => session.view.set({ column: column === form ? 'path' : form, columns: true })
  const locked = picked.every((id) => project.widgets[id as WidgetId]?.locked)
  const held = areHeld(project, picked)
  useKeys([
    ['r', () => open('repeat')],
    ['x', () => open('slice')],
    ['k', () => lockWidgets(session)],
    ['g', () => holdWidgets(session)],
  ])
  return (
    <>
      <Alignments count={picked.length} />
      <Button aria-expanded={column === 'repeat'} onClick={() => open('repeat')}>
        Repeat <Kbd size="xs">R</Kbd>
      </Button>
      <ActionIcon.Group>
        <ActionIcon
          aria-label="Slice faces from a page image"
          title="Slice faces from a page image (X)"
          aria-expanded={column === 'slice'}
          onClick={() => open('slice')}
        >
          <Scissors size={15} />
        </ActionIcon>
        <ActionIcon
          aria-label={locked ? 'Unlock' : 'Lock'}
          title={`${locked ? 'Unlock position' : 'Lock position'} (K)`}
          aria-pressed={locked}
          onClick={() => lockWidgets(session)}
        >
          {locked ? <Lock size={15} /> : <LockOpen size={15} />}
        </ActionIcon>
        <ActionIcon
          aria-label={held ? 'Ungroup' : 'Group'}
          title={`${held ? 'Ungroup' : 'Group: one click selects all, a second click one'} (G)`}
          aria-pressed={held}
          disabled={picked.length < 2}
          onClick={() => holdWidgets(session)}
        >
          {held ? <Ungroup size={15} /> : <GroupTogether size={15} />}
        </ActionIcon>
        <ActionIcon aria-label="Duplicate" title="duplicate (Ctrl D)" onClick={() => duplicateWidgets(session, page)}>
          <Copy size={15} />
        </ActionIcon>
        <ActionIcon aria-label="Delete" title="delete (Del)" onClick={() => deleteWidgets(session)}>
          <Trash2 size={15} />
        </ActionIcon>
      </ActionIcon.Group>
    </>
  )
}

/** Edges, middles, gaps and sizes of so many widgets. */
const Alignments = memo(function Alignments({ count }: { count: number }) {
  const session = useSession()
  return (
    <ActionIcon.Group>
      {alignments.map((a) => {
        return (
          <ActionIcon
            key={a.label}
            aria-label={a.label}
            title={count === 1 ? `${a.label}, on the page` : a.label}
            disabled={count < a.least}
            onClick={() => alignWidgets(session, a)}
          >
            <AlignIcon name={a.label} />
          </ActionIcon>
        )
      })}
    </ActionIcon.Group>
  )
})

/** Which values the desk shows; the wire hears nothing of it. */
const ShownValues = memo(function ShownValues() {
  const session = useSession()
  const shown = useStore(session.view, (v) => v.shown)
  return (
    <SegmentedControl
      ml="auto"
      aria-label="Preview values"
      data={shownValues.map((value) => ({ value, label: shownTexts[value] }))}
      value={shown}
      onChange={(value) => session.view.set({ shown: value as Shown })}
    />
  )
})

function TouchAreas() {
  const session = useSession()
  const areas = useStore(session.view, (v) => v.areas)
  return (
    <Button aria-pressed={areas} onClick={() => session.view.set({ areas: !areas })} leftSection={<Scan size={14} />}>
      Touch areas <Kbd size="xs">S</Kbd>
    </Button>
  )
}
