import { randomBytes } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import { pino, type Logger } from 'pino'
import { randomFrom, type Random } from '@moth-lamp/core/base'
import { unpackProject } from '@moth-lamp/core/project'
import { makeApp } from './app.ts'
import { Commits } from './commits.ts'
import { connect, migrateToLatest, type Database } from './database.ts'
import { bundledFonts } from './fonts.ts'
import { importsOver, sweepImports } from './import.ts'
import { serveLive } from './live.ts'
import { Pictures } from './pictures.ts'
import { Profiles } from './profiles.ts'
import { Store, type StoreHooks } from './store.ts'
import { Workroom } from './work/workroom.ts'

export interface Running {
  port: number
  db: Database
  store: Store
  commits: Commits
  databaseUrl: string
  stop(): Promise<void>
}

export interface Options {
  databaseUrl: string
  port: number
  /** The folder it was started from, for whoever asks who is there. */
  root?: string
  web: string | null
  /** Project files loaded when there is no project at all. */
  demos: readonly string[]
  log?: Logger
  hooks?: StoreHooks
}

/** Chance for ids, from the machine's own source. */
export const chance: Random = randomFrom(() => randomBytes(4).readUInt32LE())

/** Connects, migrates, loads the demo into an empty database, and listens on loopback. */
export async function startServer(options: Options): Promise<Running> {
  const log = options.log ?? pino({ level: process.env['LOG_LEVEL'] ?? 'warn' })
  const db = connect(options.databaseUrl, (error) => log.warn({ err: error }, 'a database connection was lost'))
  await migrateToLatest(db)
  const store = new Store(db, chance, options.hooks)
  const work = new Workroom()
  if (await store.isEmpty()) for (const file of options.demos) await loadDemo(store, file, log)
  const app = makeApp({
    db,
    root: options.root ?? '',
    store,
    work,
    pictures: new Pictures(db, store, work),
    profiles: new Profiles(db),
    log,
    random: chance,
    fonts: bundledFonts(),
    web: options.web,
  })
  const collecting = collectNowAndThen(store, log)
  void sweepImports(Date.now()).catch((error: unknown) => log.warn({ err: error }, 'old folders could not be taken away'))
  const commits = new Commits(options.databaseUrl, db, log)
  await commits.start()
  const server = createServer(app)
  // Longer than whoever asks keeps a connection: one that is closed just as it is taken again would lose a request.
  server.keepAliveTimeout = 65_000
  const endLive = serveLive(server, store, commits, log)
  try {
    await listening(server, options.port)
  } catch (error) {
    await Promise.all([commits.stop(), work.close(), db.destroy()])
    throw error
  }
  const address = server.address()
  return {
    port: typeof address === 'object' && address ? address.port : options.port,
    db,
    store,
    commits,
    databaseUrl: options.databaseUrl,
    stop: async () => {
      clearInterval(collecting)
      endLive()
      server.closeAllConnections()
      await new Promise((resolve) => server.close(resolve))
      // A file that is being taken in loses its connection, and takes its folder with it.
      await Promise.all([commits.stop(), work.close(), importsOver()])
      await db.destroy()
    },
  }
}

const day = 24 * 3600 * 1000
/** So long nothing need name an asset: an edit that does may wait in a browser whose window was closed. */
const unnamedMs = 7 * day

/** Assets that nobody uses are collected at the start and once a day. */
function collectNowAndThen(store: Store, log: Logger): NodeJS.Timeout {
  const collect = () =>
    void store
      .collectAssets(new Date(Date.now() - unnamedMs))
      .then((count) => count && log.info({ count }, 'assets that nothing names were deleted'))
      .catch((error: unknown) => log.warn({ err: error }, 'assets could not be collected'))
  collect()
  return setInterval(collect, day).unref()
}

/** Express hands an error of listening to the callback of success: so the server is told itself. */
const listening = (server: Server, port: number): Promise<void> =>
  new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => {
      server.off('error', reject)
      resolve()
    })
  })

async function loadDemo(store: Store, file: string, log: Logger): Promise<void> {
  const read = unpackProject(new Uint8Array(readFileSync(file)))
  if (read.ok) await store.create(read.value.project, read.value.assets)
  else log.error({ file, problem: read.problem }, 'a demo cannot be read')
}
