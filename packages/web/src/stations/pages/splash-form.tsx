import { Button, Group, Stack } from '@mantine/core'
import { useState } from 'react'
import type { Page, Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { Disclosure } from '../../controls/disclosure.tsx'
import { NumberField } from '../../controls/fields.tsx'
import { useSession } from '../../session/context.tsx'

/** This page and those after it, one after another, as a splash of several pictures is. */
export function SplashForm({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  const pages = project.pageOrder.filter((id) => project.pages[id]!.kind === 'page')
  const at = pages.indexOf(page.id)
  const most = pages.length - at
  const [count, setCount] = useState(2)
  const [showsForMs, setShowsFor] = useState(600)
  const [then, setThen] = useState('')
  if (at < 0 || most < 2) return null
  const ids = pages.slice(at, at + Math.min(count, most))
  const ends = pages.filter((id) => !ids.includes(id))
  const last = ends.includes(then as never) ? then : (ends.find((id) => pages.indexOf(id) > at) ?? ends[0] ?? '')
  return (
    <Disclosure title="Start-up sequence">
      <Stack gap={6}>
        <Group gap={6} wrap="nowrap">
          <NumberField
            label="Pages of the sequence"
            value={ids.length}
            min={2}
            max={most}
            whole
            unit="pages"
            onCommit={setCount}
          />
          <NumberField label="Time per page" value={showsForMs} min={50} max={60_000} whole unit="ms" onCommit={setShowsFor} />
        </Group>
        <Choice
          label="After the sequence"
          value={last}
          options={[
            { value: '', label: 'stay on the last page' },
            ...ends.map((id) => ({ value: id as string, label: `then ${project.pages[id]!.name}` })),
          ]}
          onChange={setThen}
        />
        {project.startPage !== ids[0] && <p className="small muted">{page.name} becomes the page that is shown at power-on.</p>}
        <Button onClick={() => session.edit('play pages', { ids, showsForMs, then: last, starts: true })}>Create sequence</Button>
      </Stack>
    </Disclosure>
  )
}
