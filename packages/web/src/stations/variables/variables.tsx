import { useFolding } from '../../parts/folding.ts'
import { NothingYet } from '../../parts/nothing-yet.tsx'
import { Box, Button } from '@mantine/core'
import { useState } from 'react'
import type { PageId } from '@moth-lamp/core/base'
import { usersOf, type Project } from '@moth-lamp/core/project'
import { FindField } from '../../controls/find-field.tsx'
import { Choice } from '../../controls/choice.tsx'
import { useKeys } from '../../controls/keys.ts'
import { SignalPathColumn } from '../../inspector/signal-path.tsx'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { freshId } from '../../session/chance.ts'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { MemoryMap } from './memory.tsx'
import { Register } from './register.tsx'
import styles from './variables.module.css'
import station from '../../parts/station.module.css'

/** The register of variables, edited in place; the memory below; the way of the selected one on the right. */
export function VariablesStation() {
  const session = useSession()
  const folding = useFolding()
  const project = useProject()
  const picked = useStore(session.view, (v) => v.variable) ?? project.variableOrder[0] ?? null
  const addresses = useStore(session.view, (v) => v.addresses)
  const [find, setFind] = useState('')
  const [page, setPage] = useState('')
  const add = () => {
    const id = freshId('variable')
    if (session.edit('add variable', { id, after: '' })) session.view.set({ variable: id })
  }
  useKeys([['n', add]])
  const words = find.toLowerCase()
  const shown = project.variableOrder
    .map((id) => project.variables[id]!)
    .filter((v) => `${v.name} ${v.meaning} ${v.address.toString(16)}`.toLowerCase().includes(words))
    .filter((v) => !page || isOn(project, v.id, page))
  return (
    <div className={`${folding} ${station.two}`} data-sided>
      <div className={`${station.pad} ${styles.rows}`}>
        <section className={station.card} aria-label="Variables">
          <header>
            <Button onClick={add}>
              + Variable <span className="key">N</span>
            </Button>
            <FindField label="Find a variable" value={find} onChange={setFind} width={150} />
            <Box component="span" w={130}>
              <Choice
                label="Variables of"
                value={page}
                options={[
                  { value: '', label: 'all pages' },
                  ...project.pageOrder.map((id) => ({ value: id, label: project.pages[id]!.name })),
                ]}
                onChange={setPage}
              />
            </Box>
            <span className="muted small">
              {shown.length === project.variableOrder.length
                ? shown.length
                : `${shown.length} of ${project.variableOrder.length}`}
            </span>
            <Box component="span" className="end" w={96}>
              <Choice
                label="Addresses"
                value={addresses}
                options={['hex', 'decimal']}
                onChange={(a) => session.view.set({ addresses: a as 'hex' | 'decimal' })}
              />
            </Box>
          </header>
          {shown.length ? (
            <Register project={project} shown={shown} picked={picked} />
          ) : (
            <>
              {project.variableOrder.length > 0 ? (
                <p className={station.empty}>No match.</p>
              ) : (
                <NothingYet label="Add a widget" to="pages">
                  No variables. Adding a number, text or indicator creates one; or press N.
                </NothingYet>
              )}
            </>
          )}
        </section>
        <MemoryMap project={project} picked={picked} />
        <FindingBar station="Variables" />
      </div>
      <aside className={station.column} data-side aria-label="Selection">
        <SignalPathColumn project={project} selection={picked ? { kind: 'variable', id: picked } : null} />
      </aside>
    </div>
  )
}

const isOn = (project: Project, variable: string, page: string): boolean =>
  usersOf(project, variable).some(
    ({ from }) => from === page || project.widgets[from as keyof typeof project.widgets]?.page === (page as PageId),
  )
