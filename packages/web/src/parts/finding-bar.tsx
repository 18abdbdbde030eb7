import { ActionIcon, Button } from '@mantine/core'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { findingWords, type Finding, type FindingStation } from '@moth-lamp/core/findings'
import type { PageId, WidgetId } from '@moth-lamp/core/base'
import type { Session } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../shell/context.tsx'

const words = { error: 'Error', warning: 'Warning', advice: 'Advice' }

/** Goes to where a finding is. */
export function jumpTo(session: Session, finding: Finding, navigate: (path: string) => unknown): void {
  const { project } = session
  const widget = project.widgets[finding.at as WidgetId]
  if (widget) session.view.set({ page: widget.page, widgets: [widget.id] })
  else if (finding.at in project.pages) session.view.set({ page: finding.at as PageId, widgets: [] })
  else if (finding.at in project.variables) session.view.set({ variable: finding.at })
  void navigate(`/project/${session.id}/${finding.station.toLowerCase()}`)
}

/** The findings of a station, one at a time, with a jump to the place and the fix. */
export function FindingBar({ station }: { station: FindingStation }) {
  const session = useSession()
  const navigate = useNavigate()
  const all = useStore(session.live, (l) => l.findings)
  const here = all.filter((f) => f.station === station)
  const [index, setIndex] = useState(0)
  const at = Math.min(index, here.length - 1)
  const finding = here[at]
  if (!finding) return null
  return (
    <div className="findings" role="region" aria-label="Findings">
      <span className={`word ${finding.severity}`}>{words[finding.severity]}</span>
      <span className="grow">{findingWords(finding)}</span>
      {finding.at && <Button onClick={() => jumpTo(session, finding, navigate)}>Show it</Button>}
      {finding.fix && <Button onClick={() => session.edit(finding.fix!.edit, finding.fix!.args)}>{finding.fix.label}</Button>}
      <span className="row muted" style={{ gap: 2 }}>
        <ActionIcon variant="subtle" aria-label="Finding before" disabled={at === 0} onClick={() => setIndex(at - 1)}>
          ‹
        </ActionIcon>
        {at + 1} of {here.length}
        <ActionIcon variant="subtle" aria-label="Next finding" disabled={at >= here.length - 1} onClick={() => setIndex(at + 1)}>
          ›
        </ActionIcon>
      </span>
    </div>
  )
}
