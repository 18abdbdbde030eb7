import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { formatAddress } from '@moth-lamp/core/variables'
import { useProject, useSession } from './context.tsx'
import { stations } from './station-list.ts'

interface Found {
  key: string
  name: string
  what: string
  go(): void
}

/** Finds any page, widget, variable, exchange or station by a part of its name. */
export function Finder({ onClose }: { onClose(): void }) {
  const session = useSession()
  const project = useProject()
  const navigate = useNavigate()
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const all = useMemo((): Found[] => {
    const to = (station: string) => void navigate(`/project/${session.id}/${station}`)
    return [
      ...stations.map((s) => ({ key: s.path, name: s.name, what: 'station', go: () => to(s.path) })),
      ...project.pageOrder.map((id) => ({
        key: id,
        name: project.pages[id]!.name,
        what: 'page',
        go: () => (session.view.set({ page: id, widgets: [] }), to('pages')),
      })),
      ...project.variableOrder.map((id) => ({
        key: id,
        name: project.variables[id]!.name,
        what: `variable at ${formatAddress(project.variables[id]!.address)}`,
        go: () => (session.view.set({ variable: id }), to('variables')),
      })),
      ...Object.values(project.widgets).map((w) => ({
        key: w.id,
        name: w.name,
        what: `${w.kind} on ${project.pages[w.page]!.name}`,
        go: () => (session.view.set({ page: w.page, widgets: [w.id] }), to('pages')),
      })),
      ...project.exchangeOrder.map((id) => ({
        key: id,
        name: project.exchanges[id]!.name,
        what: 'exchange',
        go: () => to('exchanges'),
      })),
    ]
  }, [project, session, navigate])
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const found = all.filter((f) => words.every((w) => `${f.name} ${f.what}`.toLowerCase().includes(w))).slice(0, 60)
  const go = (f: Found | undefined) => {
    if (!f) return
    f.go()
    onClose()
  }
  return (
    <div className="sheet-over" onClick={onClose}>
      <div
        className="sheet"
        role="dialog"
        aria-label="Find"
        onClick={(e) => e.stopPropagation()}
        onKeyDown={(e) => {
          if (e.key === 'Escape') onClose()
          if (e.key === 'ArrowDown') setAt(Math.min(at + 1, found.length - 1))
          if (e.key === 'ArrowUp') setAt(Math.max(at - 1, 0))
          if (e.key === 'Enter') go(found[at])
        }}
      >
        <input
          className="field"
          autoFocus
          aria-label="Find a page, widget, variable, exchange or station"
          placeholder="Find …"
          value={text}
          onChange={(e) => (setText(e.target.value), setAt(0))}
        />
        <div className="scroll">
          {found.map((f, i) => (
            <button key={f.key} className="listed" aria-current={i === at ? true : undefined} onClick={() => go(f)}>
              <span className="grow cut">{f.name}</span>
              <span className="muted small">{f.what}</span>
            </button>
          ))}
          {!found.length && <p className="empty">Nothing has that name.</p>}
        </div>
      </div>
    </div>
  )
}
