import { ActionIcon, Button, Group } from '@mantine/core'
import { RotateCcw } from 'lucide-react'
import { copiesOf, type Project, type Widget } from '@moth-lamp/core/project'
import { useSession } from '../../session/context.tsx'
import { fieldOf } from '../../parts/lookups.ts'
import { Line } from './stop.tsx'

/** Of a linked copy: whose look it has, and what is its own; of an original: how many look as it does. */
export function LikeLine({ project, widget }: { project: Project; widget: Widget }) {
  const session = useSession()
  const unlink = (ids: string[]) => session.edit('unlink widgets', { ids })
  if (widget.like === '') {
    const copies = copiesOf(project.widgets, widget.id)
    if (!copies.length) return null
    return (
      <Line name="Linked copies">
        <Group gap={4} wrap="nowrap">
          <span className="small grow">{copies.length}</span>
          <Button size="compact-xs" onClick={() => session.view.set({ widgets: copies.map((w) => w.id) })}>
            Show
          </Button>
          <Button size="compact-xs" title="unlink all copies" onClick={() => unlink(copies.map((w) => w.id))}>
            Unlink all
          </Button>
        </Group>
      </Line>
    )
  }
  const original = project.widgets[widget.like]!
  const own = Object.keys(session.stored.widgets[widget.id]?.settings ?? {})
  return (
    <>
      <Line name="Linked to">
        <Group gap={4} wrap="nowrap">
          <span className="grow cut">{original.name}</span>
          <Button size="compact-xs" onClick={() => session.view.set({ page: original.page, widgets: [original.id] })}>
            Show
          </Button>
          <Button size="compact-xs" title="unlink this copy" onClick={() => unlink([widget.id])}>
            Unlink
          </Button>
        </Group>
      </Line>
      {own.length > 0 && (
        <Line name="Overrides">
          <Group gap={4}>
            {own.map((key) => {
              const label = fieldOf(widget, key)?.label ?? key
              return (
                <span key={key} className="small">
                  {label}
                  <ActionIcon
                    size={17}
                    variant="subtle"
                    aria-label={`${label}: reset to original`}
                    title="reset to original"
                    onClick={() => session.edit('set as original', { id: widget.id, keys: [key] })}
                  >
                    <RotateCcw size={11} />
                  </ActionIcon>
                </span>
              )
            })}
          </Group>
        </Line>
      )}
    </>
  )
}
