import { ActionIcon, Button, FileButton, Group, Menu, Progress } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import type { ProjectSummary } from '@moth-lamp/contract'
import { Items } from '../../controls/pop.tsx'
import { api } from '../../session/api.ts'
import { readAgain } from '../../session/read-again.ts'
import { useFilesGiven } from '../../controls/files.ts'
import { Disclosure } from '../../controls/disclosure.tsx'
import { NewPanel } from './new-panel.tsx'
import { said } from './said.ts'
import styles from './shelf.module.css'
import shell from '../../parts/shell.module.css'
import station from '../../parts/station.module.css'

interface Reading {
  name: string
  done: number
  /** 0 until the document has been looked at. */
  of: number
  stop: AbortController
}

const stopped = (error: unknown): boolean => error instanceof Error && error.name === 'AbortError'

/** How far the reading of a file is, and the way to give it up. */
function ReadingFile({ name, done, of, stop }: Reading) {
  return (
    <div className="row" role="status">
      <span>
        Reading {name}: {of ? `font ${Math.min(done + 1, of)} of ${of}` : 'project data'} …
      </span>
      <Progress className="grow" value={of ? (100 * (done + 1)) / (of + 1) : 5} aria-label="Reading the file" />
      <Button size="compact-xs" onClick={() => stop.abort()}>
        Stop
      </Button>
    </div>
  )
}

/** The projects there are, each with the picture of its start page. */
export function Shelf() {
  const client = useQueryClient()
  const navigate = useNavigate()
  const projects = useQuery({ queryKey: ['projects'], queryFn: api.projects })
  const [making, setMaking] = useState(false)
  /** Forgets the file that was chosen, so that the same can be chosen again. */
  const again = useRef<() => void>(null)
  const refresh = () => readAgain(client, 'projects')
  const [reading, setReading] = useState<Reading | null>(null)
  const read = useMutation({
    mutationFn: ({ chosen, stop }: { chosen: File; stop: AbortController }) =>
      api.importFile(chosen, (done, of) => setReading({ name: chosen.name, done, of, stop }), stop.signal),
    onSuccess: refresh,
    onSettled: () => setReading(null),
  })
  const readFile = (chosen: File) => {
    const stop = new AbortController()
    setReading({ name: chosen.name, done: 0, of: 0, stop })
    read.mutate({ chosen, stop })
  }
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() === 'n' && !e.ctrlKey && !e.metaKey && !(e.target instanceof HTMLInputElement)) {
        e.preventDefault()
        setMaking(true)
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  const live = (projects.data ?? []).filter((p) => !p.deletedAt)
  const gone = (projects.data ?? []).filter((p) => p.deletedAt)
  useFilesGiven(([file]) => file && readFile(file))
  return (
    <div className={shell.shell}>
      <header className={shell.bar}>
        <img className={shell.brand} src="/moth.svg" alt="" />
        <h1 className={styles.title}>Moth Lamp</h1>
        <span className="grow" />
        <FileButton
          accept=".mothlamp,application/zip"
          resetRef={again}
          inputProps={{ 'aria-label': 'Project file' }}
          onChange={(chosen) => {
            again.current?.()
            if (chosen) readFile(chosen)
          }}
        >
          {(props) => <Button {...props}>Open a project file…</Button>}
        </FileButton>
        <Button variant="filled" onClick={() => setMaking(true)}>
          New project <span className="key">N</span>
        </Button>
      </header>
      <main className={styles.shelf}>
        {reading && <ReadingFile {...reading} />}
        {read.isError && !stopped(read.error) && (
          <p className="bad" role="alert">
            {said(read.error)}
          </p>
        )}
        {making && <NewPanel onClose={() => setMaking(false)} onMade={(id) => void navigate(`/project/${id}/pages`)} />}
        {projects.isError && (
          <p className="bad" role="alert">
            {said(projects.error)} <Button onClick={() => void projects.refetch()}>Try again</Button>
          </p>
        )}
        <div className={styles.grid}>
          {live.map((p) => (
            <Tile key={p.id} project={p} onChange={() => void refresh()} />
          ))}
        </div>
        {projects.isSuccess && !live.length && !making && (
          <div className={station.empty}>
            No projects yet.
            <Button variant="filled" onClick={() => setMaking(true)}>
              New project
            </Button>
          </div>
        )}
        {gone.length > 0 && <History projects={gone} onChange={() => void refresh()} />}
      </main>
    </div>
  )
}

/** The start page as the glass would show it; where none can be made, why. */
function StartPage({ id, name, revision }: { id: string; name: string; revision: number }) {
  const [broken, setBroken] = useState(false)
  const why = useQuery({
    queryKey: ['picture', id, revision],
    queryFn: () => api.pictureProblem(id),
    enabled: broken,
    retry: false,
  })
  if (broken)
    return (
      <span className={`${styles.none} small`} role="img" aria-label={`No picture of ${name}`}>
        {why.data ?? 'No preview'}
      </span>
    )
  return (
    <img
      loading="lazy"
      src={`/api/projects/${id}/picture?revision=${revision}`}
      alt={`Start page of ${name}`}
      onError={() => setBroken(true)}
    />
  )
}

function Tile({ project, onChange }: { project: ProjectSummary; onChange(): void }) {
  const { id, name, width, height, link, exchanges, passed, failed, revision } = project
  const duplicate = useMutation({ mutationFn: () => api.duplicate(id), onSuccess: onChange })
  const remove = useMutation({ mutationFn: () => api.remove(id), onSuccess: onChange })
  // Addresses are reserved before export: no other variable gets an address that deployed firmware may write to.
  const handOut = useMutation({
    mutationFn: () => api.spendAddresses(id),
    onSuccess: () => {
      window.location.assign(`/api/projects/${id}/file`)
      onChange()
    },
  })
  const wrong = duplicate.error ?? remove.error ?? handOut.error
  const lacking = handOut.data?.missing ?? []
  return (
    <article className={styles.tile}>
      <Link to={`/project/${id}/bench`} className={styles.picture} aria-label={`Open ${name} on the Bench`}>
        <StartPage key={revision} id={id} name={name} revision={revision} />
        <span className={styles.leads}>▶ Run</span>
      </Link>
      <Group align="flex-start" gap={8} wrap="nowrap">
        <div className="grow">
          <Link to={`/project/${id}/pages`} className={styles.name}>
            {name} <span className={styles.draws}>✎ Edit</span>
          </Link>
          <div className="muted">
            {width} × {height} · {link}
            <br />
            <Checks exchanges={exchanges} passed={passed} failed={failed} />
          </div>
        </div>
        <Menu position="bottom-end">
          <Menu.Target>
            <ActionIcon mt={6} aria-label={`More for ${name}`}>
              ⋯
            </ActionIcon>
          </Menu.Target>
          <Items>
            <Menu.Item onClick={() => handOut.mutate()}>Save as a project file</Menu.Item>
            <Menu.Item onClick={() => duplicate.mutate()}>Duplicate</Menu.Item>
            <Menu.Item onClick={() => remove.mutate()}>Delete</Menu.Item>
          </Items>
        </Menu>
      </Group>
      {wrong && (
        <p className="bad" role="alert">
          {said(wrong)}
          {lacking.length > 0 && (
            <p className="small bad" role="alert">
              The file was saved without {lacking.join(', ')}: the server does not have {lacking.length === 1 ? 'it' : 'them'}.
            </p>
          )}
        </p>
      )}
    </article>
  )
}

/** How its exchanges went when they were last run. */
function Checks({ exchanges, passed, failed }: Pick<ProjectSummary, 'exchanges' | 'passed' | 'failed'>) {
  const many = exchanges === 1 ? '1 exchange' : `${exchanges} exchanges`
  if (exchanges === 0) return <>no exchanges</>
  if (passed === null || failed === null) return <>{many}, not run</>
  if (failed > 0)
    return <span className="bad">{exchanges === 1 ? '1 exchange failed' : `${failed} of ${exchanges} exchanges failed`}</span>
  const waiting = exchanges - passed
  return (
    <>
      <span className="ok">✓</span> {waiting > 0 ? `${passed} of ${many} passed, ${waiting} not run` : `${many} passed`}
    </>
  )
}

function History({ projects, onChange }: { projects: ProjectSummary[]; onChange(): void }) {
  const restore = useMutation({ mutationFn: api.restore, onSuccess: onChange })
  return (
    <Disclosure title={`Recently deleted (${projects.length})`}>
      {projects.map((p) => (
        <p key={p.id} className="row">
          {p.name} <span className="muted">revision {p.revision}</span>
          <Button size="compact-xs" onClick={() => restore.mutate(p.id)}>
            Restore
          </Button>
        </p>
      ))}
    </Disclosure>
  )
}
