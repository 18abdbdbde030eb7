import { ActionIcon, Button, FileButton, Group, Stack, UnstyledButton } from '@mantine/core'
import { Redo2, Undo2 } from 'lucide-react'
import { Link } from 'react-router'
import { sha256Hex } from '@moth-lamp/core/base'
import { assetNames } from '@moth-lamp/core/project'
import { problemWords } from '../session/session.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { Pop } from '../controls/pop.tsx'
import { requestWords } from '../shell/request-words.ts'
import { stations } from '../shell/station-list.ts'
import shell from '../parts/shell.module.css'
import form from '../parts/fields.module.css'

const isEmptyAt: Record<string, (p: ReturnType<typeof useSession>['project']) => boolean> = {
  pages: (p) => !Object.keys(p.widgets).length,
  variables: (p) => !p.variableOrder.length,
  frames: (p) => !p.variableOrder.length,
  bench: (p) => !p.host.quantityOrder.length,
  exchanges: (p) => !p.exchangeOrder.length,
}

/** Project, string of lamps, lamp switch. */
export function TopBar({ here, touching }: { here: string; touching: boolean }) {
  const session = useSession()
  const benched = here === 'bench'
  return (
    <header className={shell.bar}>
      <Link to="/" aria-label="All projects">
        <img className={shell.brand} src="/moth.svg" alt="Moth Lamp" />
      </Link>
      <div className={shell.named}>
        <ProjectName />
        <SaveWords />
      </div>
      <nav aria-label="Stations">
        <ol className={shell.stations}>
          {stations.map(({ path, name }) => (
            <li key={path}>
              <Link to={`/project/${session.id}/${path}`} aria-current={path === here ? 'page' : undefined}>
                <StationLamp path={path} />
                <Count name={name} />
                <span className={shell.stationName}>{name}</span>
              </Link>
            </li>
          ))}
        </ol>
      </nav>
      <UndoButtons />
      <UnstyledButton
        className={`${shell.switch} ${touching ? shell.touch : ''}`}
        role="switch"
        aria-checked={touching}
        aria-label="Mode: edit or run"
        disabled={benched}
        title={benched ? 'The panel always runs on the Bench' : 'Edit or Run'}
        onClick={() => session.view.set({ lamp: touching ? 'edit' : 'touch' })}
      >
        <span className={shell.track}>
          <span className={shell.thumb} />
        </span>
        <span className={shell.lampWords}>
          <strong>{touching ? 'Run' : 'Edit'}</strong>
          <span className="small muted">{touching ? 'panel running' : 'panel paused'}</span>
        </span>
        <span className="key">L</span>
      </UnstyledButton>
    </header>
  )
}

function ProjectName() {
  const session = useSession()
  const name = useStore(session.document, (d) => d.project.name)
  return (
    <h1 className="cut" title={name}>
      {name}
    </h1>
  )
}

/** Hollow while there is nothing in a station. */
function StationLamp({ path }: { path: string }) {
  const session = useSession()
  const isEmpty = useStore(session.document, (d) => isEmptyAt[path]?.(d.project) ?? false)
  return <span className={`${shell.lamp} ${isEmpty ? shell.hollow : ''}`} />
}

/** How many findings a station has. */
function Count({ name }: { name: string }) {
  const session = useSession()
  const findings = useStore(session.live, (l) => l.findings).filter((f) => f.station === name)
  const count = findings.length
  const errors = findings.filter((f) => f.severity === 'error').length
  if (!count) return null
  const words = `${count} ${count === 1 ? 'finding' : 'findings'}${errors ? ` (${errors} ${errors === 1 ? 'error' : 'errors'})` : ''}`
  return (
    <span className={`${shell.count} ${errors ? shell.error : ''}`} title={words} aria-label={words}>
      {count > 99 ? '99+' : count}
    </span>
  )
}

function SaveWords() {
  const session = useSession()
  const save = useStore(session.document, (d) => d.save)
  const revision = useStore(session.document, (d) => d.revision)
  const setAside = useStore(session.document, (d) => d.setAside)
  const words = {
    saved: `Saved · revision ${revision}`,
    waiting: 'Unsaved changes',
    saving: 'Saving …',
    away: 'Offline: changes are stored in this browser',
    'load again': 'Saving stopped: reload the page',
  }[save.kind]
  return (
    <Group wrap="nowrap" className="small" gap={6}>
      <span role="status" className={'message' in save ? 'bad' : 'muted'} title={'message' in save ? save.message : undefined}>
        {words}
      </span>
      {save.kind === 'load again' && (
        <Button size="compact-xs" onClick={() => location.reload()}>
          Reload
        </Button>
      )}
      <MissingFiles />
      {setAside.length > 0 && (
        <Pop
          position="bottom-start"
          width={440}
          target={<Button size="compact-xs">{setAside.length === 1 ? '1 conflict' : `${setAside.length} conflicts`}</Button>}
        >
          <Stack gap={8}>
            <p>These changes conflict with edits made elsewhere and were not applied. Retry or discard each one:</p>
            {setAside.map((aside) => (
              <div key={aside.request.changeId} className={form.sub}>
                <strong>{requestWords(session.project, aside.request)}</strong>
                <span>{problemWords(aside.problem)}</span>
                <Group gap={6}>
                  <Button size="compact-xs" onClick={() => session.tryAgain(aside)}>
                    Retry
                  </Button>
                  <Button size="compact-xs" onClick={() => session.forgetSetAside(aside.request.changeId)}>
                    Discard
                  </Button>
                </Group>
              </div>
            ))}
          </Stack>
        </Pop>
      )}
    </Group>
  )
}

/** Files that the project names and that only another browser has, if any: by name, each with a way to bring it. */
function MissingFiles() {
  const session = useSession()
  const missing = useStore(session.document, (d) => d.missing)
  const project = useStore(session.document, (d) => d.project)
  if (!missing.length) return null
  const count = missing.length === 1 ? '1 file missing' : `${missing.length} files missing`
  const bring = async (file: File | null, sha: string) => {
    if (!file) return
    const bytes = new Uint8Array(await file.arrayBuffer())
    if (sha256Hex(bytes) !== sha || !(await session.bring(bytes)))
      session.say(`“${file.name}” is another file than the one that is missing.`, 'bad')
  }
  return (
    <Pop position="bottom-start" width={440} target={<Button size="compact-xs">{count}</Button>}>
      <Stack gap={8}>
        <p>The server lacks these files. Open the window in which they were added, or choose them again:</p>
        {missing.map(({ sha, why }) => (
          <div key={sha} className={form.sub}>
            <strong>{assetNames(project, (other) => other === sha).join(', ')}</strong>
            {why && <span>{why}</span>}
            <FileButton onChange={(file) => void bring(file, sha)}>
              {(props) => (
                <Button size="compact-xs" {...props}>
                  Choose file …
                </Button>
              )}
            </FileButton>
          </div>
        ))}
      </Stack>
    </Pop>
  )
}

function UndoButtons() {
  const session = useSession()
  const canUndo = useStore(session.document, (d) => d.canUndo)
  const canRedo = useStore(session.document, (d) => d.canRedo)
  return (
    <Group wrap="nowrap" gap={2}>
      <ActionIcon variant="subtle" aria-label="Undo" title="Undo (Ctrl Z)" disabled={!canUndo} onClick={session.undo}>
        <Undo2 size={17} />
      </ActionIcon>
      <ActionIcon variant="subtle" aria-label="Redo" title="Redo (Ctrl Y)" disabled={!canRedo} onClick={session.redo}>
        <Redo2 size={17} />
      </ActionIcon>
    </Group>
  )
}
