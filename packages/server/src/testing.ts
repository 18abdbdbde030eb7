import { readFileSync } from 'node:fs'
import { gunzipSync } from 'node:zlib'
import pg from 'pg'
import { pino } from 'pino'
import { startServer, type Options, type Running } from './server.ts'

export const demoPath = new URL('../demo/heron-hill-dome.mothlamp', import.meta.url).pathname
/** Documents of earlier versions, a folder a form. */
export const keptFolder = new URL('../../../kept', import.meta.url).pathname

export const demoBytes = (): Buffer => readFileSync(demoPath)

const base = (): string => {
  const url = process.env['TEST_DATABASE_URL']
  if (!url) throw new Error('TEST_DATABASE_URL is not set: run the tests by `npm test`')
  return url
}

let n = 0
/** A new empty database on the test server. */
export async function freshDatabase(): Promise<string> {
  const name = `t${process.pid}_${n++}`
  const client = new pg.Client({ connectionString: base() })
  await client.connect()
  await client.query(`create database ${name}`)
  await client.end()
  return base().replace(/\/[^/]*$/, `/${name}`)
}

/** A database as the version of a form left it. */
export async function keptDatabase(form: string): Promise<string> {
  const url = await freshDatabase()
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  await client.query(gunzipSync(readFileSync(`${keptFolder}/${form}/database.sql.gz`)).toString('utf8'))
  await client.end()
  return url
}

export const serverForTest = async (more: Partial<Options> = {}): Promise<Running> =>
  startServer({
    databaseUrl: more.databaseUrl ?? (await freshDatabase()),
    port: 0,
    web: null,
    demos: [demoPath],
    log: pino({ level: 'silent' }),
    ...more,
  })
