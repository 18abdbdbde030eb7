import { Box, Button } from '@mantine/core'
import { retiredAddresses, unspentAddresses, type Project, type Variable } from '@moth-lamp/core/project'
import { findOverlaps, formatAddress, wordsOf, type Travels } from '@moth-lamp/core/variables'
import { useSession } from '../shell/context.tsx'

const wayClass: Record<Travels, string> = {
  'host to panel': 'host-to',
  'panel to host': 'panel-to',
  both: 'both',
  stays: 'stays',
}

/** The rows of memory in use, sixteen words each. */
export function AddressMap({ project, picked }: { project: Project; picked: string | null }) {
  const session = useSession()
  const retired = retiredAddresses(project)
  const unspent = unspentAddresses(project)
  const list = Object.values(project.variables)
  const spans = list.map((v) => ({ address: v.address, words: wordsOf(v.holds) }))
  const clashing = new Set(findOverlaps(spans).flatMap((o) => [list[o.first]!.id, list[o.second]!.id]))
  const at = new Map<number, Variable>()
  for (const v of list) for (let i = 0; i < wordsOf(v.holds); i++) at.set(v.address + i, v)
  const old = new Map<number, string>()
  for (const r of retired) for (let i = 0; i < r.words; i++) old.set(r.address + i, r.name)
  const rows = [...new Set([...at.keys(), ...old.keys()].map((a) => a >> 4))].sort((a, b) => a - b)
  const used = spans.reduce((sum, s) => sum + s.words, 0)
  return (
    <section className="card" aria-label="Address map">
      <header>
        <h2>Address map</h2>
        <span className="end muted small">
          {used} of {project.panel.memoryTo - project.panel.memoryFrom} words used
          {retired.length ? ` · ${retired.length} retired` : ''}
        </span>
      </header>
      <div className="body map-body">
        {!rows.length && <p className="muted">Nothing stands in memory yet.</p>}
        <div className="map">
          {rows.flatMap((row) => [
            <span key={`r${row}`} className="mono small muted">
              {formatAddress(row * 16).slice(2)}
            </span>,
            ...Array.from({ length: 16 }, (_, i) => {
              const address = row * 16 + i
              const v = at.get(address)
              const words = v
                ? `${formatAddress(address)} ${v.name}`
                : old.has(address)
                  ? `${formatAddress(address)} retired: was ${old.get(address)}`
                  : formatAddress(address)
              return (
                <i
                  key={address}
                  title={words}
                  onClick={() => v && session.view.set({ variable: v.id })}
                  className={`${v ? (clashing.has(v.id) ? 'clash' : wayClass[v.travels]) : old.has(address) ? 'retired' : ''} ${v && v.id === picked ? 'here' : ''}`}
                />
              )
            }),
          ])}
        </div>
        {unspent.length > 0 && (
          <Box className="row small" mt={6}>
            {unspent.length === list.length ? 'No address is' : `${list.length - unspent.length} of ${list.length} addresses are`}{' '}
            frozen: the others are free again when their variable goes. Saving a project file freezes all.
            <Button size="compact-xs" onClick={() => session.edit('spend addresses', {})}>
              Freeze all
            </Button>
          </Box>
        )}
        {retired.length > 1 && (
          <Box className="row small" mt={6}>
            {retired.length} addresses were given to variables that are gone or moved.
            <Button size="compact-xs" onClick={() => session.edit('release all addresses', {})}>
              Release all
            </Button>
          </Box>
        )}
        {retired.map((r) => (
          <Box key={r.key} className="row small" mt={6}>
            {formatAddress(r.address)} was {r.name}; firmware in the field may still write it.
            <Button size="compact-xs" onClick={() => session.edit('release address', { key: r.key })}>
              Release
            </Button>
          </Box>
        ))}
      </div>
    </section>
  )
}
