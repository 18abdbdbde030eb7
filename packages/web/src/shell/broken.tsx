import { Box, Button } from '@mantine/core'
import { useRouteError } from 'react-router'
import station from '../parts/station.module.css'

/** Screen after a fault in a part of the page: never a blank screen. What was edited is kept in the browser. */
export function Broken() {
  const error = useRouteError()
  const message = error instanceof Error ? error.message : 'unknown'
  return (
    <Box component="main" className={station.empty} pt={120}>
      <h2>Something went wrong</h2>
      <p>Your edits are kept. Reload the page. If it happens again, report this line: {message}</p>
      <span className="row">
        <Button variant="filled" onClick={() => location.reload()}>
          Reload
        </Button>
        <Button component="a" href="/">
          All projects
        </Button>
      </span>
    </Box>
  )
}
