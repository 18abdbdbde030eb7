import { Button, Group, ScrollArea, Stack } from '@mantine/core'
import { useNavigate } from 'react-router'
import { findingWords, type Finding, type FindingStation } from '@moth-lamp/core/findings'
import type { PageId, WidgetId } from '@moth-lamp/core/base'
import type { Session } from '../session/session.ts'
import { Pop } from '../controls/pop.tsx'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import styles from './finding-bar.module.css'

const words = { error: 'Error', warning: 'Warning', advice: 'Advice' }

/** Goes to where a finding is. */
export function jumpTo(session: Session, finding: Finding, navigate: (path: string) => unknown): void {
  const { project } = session
  const widget = project.widgets[finding.at as WidgetId]
  if (widget) session.view.set({ page: widget.page, widgets: [widget.id] })
  else if (finding.at in project.pages) session.view.set({ page: finding.at as PageId, widgets: [] })
  else if (finding.at in project.variables) session.view.set({ variable: finding.at })
  else if (finding.at in project.commands) session.view.set({ command: finding.at })
  else if (finding.station === 'Artwork') session.view.set({ artwork: finding.at })
  void navigate(`/project/${session.id}/${finding.station.toLowerCase()}`)
}

/** The findings of a station: the first in words, all in a list; each with a jump to its place and its fix. */
export function FindingBar({ station }: { station: FindingStation }) {
  const session = useSession()
  const all = useStore(session.live, (l) => l.findings)
  const here = all.filter((f) => f.station === station)
  const [first] = here
  if (!first) return null
  return (
    <div className={styles.findings} role="region" aria-label="Findings">
      <FindingLine finding={first} />
      {here.length > 1 && (
        <Pop position="top-end" width={620} target={<Button>{here.length} findings</Button>}>
          <FindingList findings={here} />
        </Pop>
      )}
    </div>
  )
}

function FindingLine({ finding }: { finding: Finding }) {
  const session = useSession()
  const navigate = useNavigate()
  return (
    <>
      <strong className={`${styles.word} ${finding.severity === 'error' ? styles.error : ''}`}>{words[finding.severity]}</strong>
      <span className="grow">{findingWords(finding)}</span>
      {finding.at && <Button onClick={() => jumpTo(session, finding, navigate)}>Go to</Button>}
      {finding.fix && <Button onClick={() => session.edit(finding.fix!.edit, finding.fix!.args)}>{finding.fix.label}</Button>}
    </>
  )
}

/** All of them, those of one kind under one another; what has a fix is mended at once where one wishes. */
function FindingList({ findings }: { findings: Finding[] }) {
  const session = useSession()
  const sorted = [...findings].sort((a, b) => a.code.localeCompare(b.code))
  const fixable = findings.filter((f) => f.fix)
  return (
    <Stack gap={6}>
      <Group justify="space-between">
        <h3>{findings.length} findings</h3>
        {fixable.length > 1 && (
          <Button onClick={() => fixable.forEach((f) => session.edit(f.fix!.edit, f.fix!.args))}>
            Fix {fixable.length} automatically
          </Button>
        )}
      </Group>
      <ScrollArea.Autosize mah={320}>
        <Stack gap={2}>
          {sorted.map((finding, i) => (
            <Group key={i} gap={10} wrap="nowrap" py={3}>
              <FindingLine finding={finding} />
            </Group>
          ))}
        </Stack>
      </ScrollArea.Autosize>
    </Stack>
  )
}
