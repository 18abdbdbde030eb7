import { Box, Button } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import { Session } from '../session/session.ts'
import { ServerProblem } from '../session/api.ts'
import { SessionContext } from '../session/context.tsx'
import { fetchStation, Workshop } from './workshop.tsx'
import layout from '../parts/station.module.css'

/** Opens a project for this window, and closes it when the window goes elsewhere. */
export function OpenProject({ id }: { id: string }) {
  const { station = 'pages' } = useParams()
  const [session, setSession] = useState<Session | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [attempt, setAttempt] = useState(0)
  const firstStation = useRef(station)
  useEffect(() => {
    let gone = false
    let opened: Session | null = null
    let timer = 0
    Promise.all([Session.open(id), fetchStation(firstStation.current).catch(() => undefined)]).then(
      ([made]) => {
        opened = made
        if (gone) return made.close()
        setProblem(null)
        setSession(made)
      },
      (error: unknown) => {
        if (gone) return
        setProblem(error instanceof Error ? error.message : 'The project could not be opened.')
        if (error instanceof ServerProblem && error.away) timer = window.setTimeout(() => setAttempt((n) => n + 1), 1500)
      },
    )
    return () => {
      gone = true
      clearTimeout(timer)
      opened?.close()
    }
  }, [id, attempt])
  if (session)
    return (
      <SessionContext value={session}>
        <Workshop station={station} />
      </SessionContext>
    )
  return (
    <Box component="main" className={layout.empty} pt={160}>
      {problem ? (
        <>
          <p role="alert">{problem}</p>
          <span className="row">
            <Button variant="filled" onClick={() => setAttempt((n) => n + 1)}>
              Try again
            </Button>
            <Button component={Link} to="/">
              All projects
            </Button>
          </span>
        </>
      ) : (
        <p>Opening project …</p>
      )}
    </Box>
  )
}
