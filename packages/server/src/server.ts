import { randomBytes } from 'node:crypto'
import { readFileSync } from 'node:fs'
import type { Server } from 'node:http'
import { pino, type Logger } from 'pino'
import { randomFrom, type Random } from '@moth-lamp/core/base'
import { unpackProject } from '@moth-lamp/core/project'
import { makeApp } from './app.ts'
import { connect, migrateToLatest, type Database } from './database.ts'
import { bundledFonts } from './fonts.ts'
import { Store, type StoreHooks } from './store.ts'

export interface Running {
  port: number
  db: Database
  store: Store
  stop(): Promise<void>
}

export interface Options {
  databaseUrl: string
  port: number
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
  if (await store.isEmpty()) for (const file of options.demos) await loadDemo(store, file, log)
  const app = makeApp({ db, store, log, random: chance, fonts: bundledFonts(), web: options.web })
  const server = await new Promise<Server>((resolve, reject) => {
    const made = app.listen(options.port, '127.0.0.1', () => resolve(made))
    made.on('error', reject)
  })
  const address = server.address()
  return {
    port: typeof address === 'object' && address ? address.port : options.port,
    db,
    store,
    stop: async () => {
      server.closeAllConnections()
      await new Promise((resolve) => server.close(resolve))
      await db.destroy()
    },
  }
}

async function loadDemo(store: Store, file: string, log: Logger): Promise<void> {
  const read = unpackProject(new Uint8Array(readFileSync(file)))
  if (read.ok) await store.create(read.value.project, read.value.assets)
  else log.error({ file, problem: read.problem }, 'a demo cannot be read')
}
