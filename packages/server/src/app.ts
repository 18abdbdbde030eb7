import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express'
import packedStatic from 'express-static-gzip'
import helmet from 'helmet'
import type Joi from 'joi'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { mostFontBytes, mostPictureBytes } from '@moth-lamp/core/artwork'
import { assetNames, assetsOf, freshProject, plainPanel, type BundledTypeface } from '@moth-lamp/core/project'
import type { Random } from '@moth-lamp/core/base'
import {
  assetParams,
  changesQuery,
  createSchema,
  idParams,
  knownSchema,
  profileParams,
  profileSchema,
  resultSchema,
  saveSchema,
  type ExchangeRecord,
  type KeptProfile,
  type SaveRequest,
} from '@moth-lamp/contract'
import { isAway, ping, type Database } from './database.ts'
import { isOwnOrigin } from './origin.ts'
import { importFile } from './import.ts'
import type { Profiles } from './profiles.ts'
import type { Pictures } from './pictures.ts'
import { asAnswer, HttpProblem, problemWords } from './problem.ts'
import type { Store } from './store.ts'
import type { Workroom } from './work/workroom.ts'

export interface AppParts {
  db: Database
  root: string
  store: Store
  work: Workroom
  pictures: Pictures
  profiles: Profiles
  log: Logger
  /** Chance for the ids of a new project. */
  random: Random
  fonts: { typefaces: BundledTypeface[]; assets: Map<string, Uint8Array> }
  /** The built interface; without it only the API is served. */
  web: string | null
}

const mostJsonBytes = 8 * 1024 * 1024

/** The value a schema makes of a part of the request, or a 400 that says what is wrong. */
function valid<T>(schema: Joi.Schema, value: unknown): T {
  const result = schema.required().validate(value, { convert: true })
  if (result.error) throw new HttpProblem(400, 'api.request', { why: shortened(result.error.message) })
  return result.value as T
}

/** A value from a request may be of any length, and is not said back whole. */
const shortened = (text: string): string => (text.length > 300 ? `${text.slice(0, 300)} …` : text)

const idOf = (params: unknown): string => valid<{ id: string }>(idParams, params).id

const sameOrigin: RequestHandler = (req, _res, next) => {
  if (!isOwnOrigin(req)) throw new HttpProblem(403, 'api.origin')
  next()
}

export function makeApp(parts: AppParts): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(pinoHttp({ logger: parts.log, autoLogging: { ignore: (req) => !req.url?.startsWith('/api') || req.method === 'GET' } }))
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          // The decoders of pictures are WebAssembly.
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'worker-src': ["'self'", 'blob:'],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use('/api', sameOrigin, api(parts))
  if (parts.web && existsSync(join(parts.web, 'index.html'))) serveWeb(app, parts.web)
  app.use(answerProblem(parts.log))
  return app
}

function serveWeb(app: Express, web: string): void {
  // Built files lie there packed as well; each name has its hash, so that nobody asks for one twice.
  const kept = { immutable: true, maxAge: '1y', fallthrough: false } as const
  app.use(
    '/built',
    packedStatic(join(web, 'built'), { enableBrotli: true, orderPreference: ['br', 'gz'], index: false, serveStatic: kept }),
  )
  app.use(express.static(web, { index: false, maxAge: 0 }))
  app.get('/{*any}', (_req, res) => res.sendFile(join(web, 'index.html')))
}

function api(parts: AppParts): express.Router {
  const { store, db } = parts
  const router = express.Router()
  const json = [jsonOnly, express.json({ limit: mostJsonBytes, strict: true })]

  router.get('/health', async (_req, res) => {
    await ping(db)
    res.json({ ok: true, app: 'Moth Lamp', pid: process.pid, root: parts.root })
  })
  router.get('/projects', async (_req, res) => void res.json(await store.list()))
  router.post('/projects', json, async (req: express.Request, res: express.Response) => {
    const { name, ...panel } = valid<{ name: string; width: number; height: number; diagonalInches: number }>(
      createSchema,
      req.body,
    )
    const project = freshProject(name, { ...plainPanel, ...panel }, parts.fonts.typefaces, parts.random)
    res.status(201).json({ id: await store.create(project, parts.fonts.assets) })
  })
  router.post('/projects/import', (req, res) => importFile(parts, req, res))
  router.get('/profiles', async (_req, res) => void res.json(await parts.profiles.list()))
  router.put('/profiles', json, async (req: express.Request, res: express.Response) => {
    await parts.profiles.keep(valid<KeptProfile>(profileSchema, req.body))
    res.status(204).end()
  })
  // By a query as well: a path of dots is another path.
  router.delete('/profiles', async (req, res) => {
    await parts.profiles.remove(valid<{ name: string }>(profileParams, req.query).name)
    res.status(204).end()
  })
  router.delete('/profiles/:name', async (req, res) => {
    await parts.profiles.remove(valid<{ name: string }>(profileParams, req.params).name)
    res.status(204).end()
  })
  router.put('/assets/:sha', express.raw({ type: () => true, limit: mostPictureBytes }), async (req, res) => {
    const { sha } = valid<{ sha: string }>(assetParams, req.params)
    const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0)
    const checked = await parts.work.upload(bytes, sha)
    if (!checked.ok) throw new HttpProblem(422, 'api.bad-asset', { why: problemWords(checked.problem).replace(/\.$/, '') })
    await store.addAsset(sha, bytes)
    res.status(204).end()
  })
  // Its decoder makes code out of text, which no page may: it is unpacked here.
  router.post('/fonts/unpack', express.raw({ type: () => true, limit: mostFontBytes }), async (req, res) => {
    const made = await parts.work.unpack(Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0))
    // That a file is not taken is an answer like any other.
    if (!made.ok) return void res.json({ why: String(made.problem.facts['reason'] ?? problemWords(made.problem)) })
    res.type('application/octet-stream').send(Buffer.from(made.value))
  })
  router.get('/assets/:sha', async (req, res) => {
    const { sha } = valid<{ sha: string }>(assetParams, req.params)
    const bytes = await store.asset(sha)
    res.set('cache-control', 'private, max-age=31536000, immutable').type('application/octet-stream').send(bytes)
  })
  projectRoutes(router, parts, json)
  router.use((req) => {
    const allowed = methodsOf(router, req.path)
    if (allowed.length) throw new HttpProblem(405, 'api.method', { method: req.method, allowed: allowed.join(', ') })
    throw new HttpProblem(404, 'api.unknown')
  })
  return router
}

/** The answer of a layer of Express 5 about a path. */
interface Matching {
  match(path: string): boolean
}

/** The methods of the routes that a path is one of. */
function methodsOf(router: express.Router, path: string): string[] {
  const routes = router.stack.flatMap((layer) => (layer.route && (layer as unknown as Matching).match(path) ? [layer.route] : []))
  return [...new Set(routes.flatMap((route) => route.stack.map(({ method }) => method.toUpperCase())))]
}

/** A body that is no JSON is refused as such, where it would be taken for none. */
const jsonOnly: RequestHandler = (req, _res, next) => {
  const hasBody = Number(req.headers['content-length'] ?? 0) > 0 || req.headers['transfer-encoding'] !== undefined
  if (hasBody && !req.is('application/json'))
    throw new HttpProblem(415, 'api.not-json', { type: shortened(req.headers['content-type'] ?? 'none') })
  next()
}

function projectRoutes(router: express.Router, { store, work, pictures }: AppParts, json: RequestHandler[]): void {
  router.get('/projects/:id', async (req, res) => void res.json(await store.open(idOf(req.params))))
  router.get('/projects/:id/changes', async (req, res) => {
    const { since } = valid<{ since: number }>(changesQuery, req.query)
    res.json(await store.changesSince(idOf(req.params), since))
  })
  router.post('/projects/:id/changes', json, async (req: express.Request, res: express.Response) => {
    res.json(await store.save(idOf(req.params), valid<SaveRequest>(saveSchema, req.body)))
  })
  router.post('/projects/:id/known', json, async (req: express.Request, res: express.Response) => {
    res.json({ known: await store.known(idOf(req.params), valid<{ ids: string[] }>(knownSchema, req.body).ids) })
  })
  // A project that is handed out is frozen first: what has been seen outside is nobody else's again.
  router.post('/projects/:id/spend', async (req, res) => {
    const id = idOf(req.params)
    const { project } = await store.open(id)
    const there = await store.assetsThere(assetsOf(project))
    res.json({ spent: await store.spendAddresses(id), missing: assetNames(project, (sha) => !there.has(sha)) })
  })
  router.get('/projects/:id/file', async (req, res) => {
    const { project } = await store.open(idOf(req.params))
    const packed = await work.pack(project, await store.assetsFor(assetsOf(project)))
    if (!packed.ok) throw new HttpProblem(422, packed.problem.code, packed.problem.facts)
    res
      .attachment(`${project.name.replaceAll(/[^A-Za-z0-9 _-]/g, '').trim() || 'project'}.mothlamp`)
      .type('application/zip')
      .send(Buffer.from(packed.value))
  })
  router.get('/projects/:id/picture', async (req, res) => {
    const { png, problem } = await pictures.of(idOf(req.params))
    if (problem) throw new HttpProblem(422, 'api.no-picture', { why: problemWords(problem).replace(/\.$/, '') })
    res.set('cache-control', 'private, max-age=31536000').type('png').send(png)
  })
  router.post('/projects/:id/duplicate', async (req, res) => {
    const { project } = await store.open(idOf(req.params))
    res.status(201).json({ id: await store.create({ ...project, name: `${project.name.slice(0, 54)} copy` }) })
  })
  router.delete('/projects/:id', async (req, res) => {
    await store.setDeleted(idOf(req.params), true)
    res.json({ ok: true })
  })
  router.post('/projects/:id/restore', async (req, res) => {
    await store.setDeleted(idOf(req.params), false)
    res.json({ ok: true })
  })
  router.get('/projects/:id/results', async (req, res) => void res.json(await store.results(idOf(req.params))))
  router.post('/projects/:id/results', json, async (req: express.Request, res: express.Response) => {
    await store.addResult(idOf(req.params), valid<Omit<ExchangeRecord, 'ranAt'>>(resultSchema, req.body))
    res.json({ ok: true })
  })
}

const answerProblem =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, _req, res, next) => {
    if (res.headersSent) return next(error)
    const problem = asProblem(error)
    if (problem.status >= 500) log.error({ err: error }, problem.code)
    res.status(problem.status).json(asAnswer(problem))
  }

function asProblem(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error
  const { type, limit, status, message } = error as { type?: string; limit?: number; status?: number; message?: string }
  if (type === 'entity.too.large') return new HttpProblem(413, 'api.large', { most: limit ?? 0 })
  if (typeof status === 'number' && status >= 400 && status < 500)
    return new HttpProblem(status, status === 404 ? 'api.unknown' : 'api.request', { why: message ?? '' })
  if ((error as { code?: string }).code === '53100') return new HttpProblem(507, 'api.disk-full')
  if (isAway(error)) return new HttpProblem(503, 'api.database-away')
  return new HttpProblem(500, 'api.fault')
}
