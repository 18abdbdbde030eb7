import { fileURLToPath } from 'node:url'
import { startServer } from './server.ts'

const databaseUrl = process.env['DATABASE_URL']
if (!databaseUrl) {
  console.error('DATABASE_URL is not set: start Moth Lamp with `npm start`.')
  process.exit(64)
}
const root = process.env['MOTH_LAMP_ROOT'] ?? fileURLToPath(new URL('../../..', import.meta.url))
const port = Number(process.env['PORT'] || 4600)

// Listeners catch what they may meet; what comes through all the same leaves nobody knows what behind, so the process ends with
// its error told, and its starter begins anew. A promise that nobody waits for ends here as well.
process.on('uncaughtException', (error) => {
  console.error('The server met an error that nothing in it expected:', error)
  process.exit(70)
})

try {
  const running = await startServer({
    databaseUrl,
    port,
    root,
    web: `${root}/packages/web/dist`,
    // The project changed last stands first on the shelf.
    demos: ['quay-ramp-remote', 'heron-hill-dome'].map((name) => `${root}/packages/server/demo/${name}.mothlamp`),
  })
  console.log(`Moth Lamp is at http://127.0.0.1:${running.port}`)
  // Its starter starts it again from now on, whatever ends it.
  process.send?.('serving')
  let stopping = false
  const stop = () => {
    if (stopping) return
    stopping = true
    void running.stop().then(() => process.exit(0))
  }
  process.on('SIGINT', stop)
  process.on('SIGTERM', stop)
  // The parent process is gone.
  process.on('disconnect', stop)
} catch (error) {
  const { code, message } = error as { code?: string; message?: string }
  console.error(
    code === 'EADDRINUSE'
      ? `Port ${port} is in use by another program: choose another, as in PORT=4601 npm start`
      : `Moth Lamp cannot start: ${message}`,
  )
  process.exit(1)
}
