import { useState } from 'react'
import type { CommandId } from '@moth-lamp/core/base'
import { SignalPathColumn } from '../../inspector/signal-path.tsx'
import { useFolding } from '../../parts/folding.ts'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { CatalogueCard } from './catalogue.tsx'
import { CommandColumn } from './command-column.tsx'
import { ExplainCard } from './explain/explain.tsx'
import { LayoutCard } from './layout-card.tsx'
import station from '../../parts/station.module.css'
import styles from './frames.module.css'

/** The recipe of all frames, every frame of the project, and pasted bytes explained. */
export function FramesStation() {
  const session = useSession()
  const [isWide, setWide] = useState(false)
  const folding = useFolding(1150)
  const project = useProject()
  const variable = useStore(session.view, (v) => v.variable)
  const widget = useStore(session.view, (v) => v.widgets[0])
  const command = useStore(session.view, (v) => v.command)
  const shown = command !== null ? project.commands[command as CommandId] : undefined
  const first = project.variableOrder[0]
  const selection = variable
    ? ({ kind: 'variable', id: variable } as const)
    : widget && widget in project.widgets
      ? ({ kind: 'widget', id: widget } as const)
      : first
        ? ({ kind: 'variable', id: first } as const)
        : null
  return (
    <div className={`${folding} ${station.two}`} data-sided>
      <div className={`${station.pad} ${styles.framesRows}`} data-wide={isWide || undefined}>
        {!isWide && <LayoutCard project={project} />}
        {!isWide && <CatalogueCard project={project} picked={shown?.id ?? selection?.id ?? ''} />}
        <ExplainCard project={project} isWide={isWide} onWide={setWide} />
        <FindingBar station="Frames" />
      </div>
      <aside className={station.column} data-side aria-label="Selection">
        {shown ? (
          <CommandColumn key={shown.id} project={project} command={shown} />
        ) : (
          <SignalPathColumn project={project} selection={selection} />
        )}
      </aside>
    </div>
  )
}
