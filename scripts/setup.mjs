// What both commands need before anything else, with nothing but Node there: packages, Debian programs, PostgreSQL, builds.
import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '')
export const local = join(root, '.local')
export const bin = (name) => join(root, 'node_modules/.bin', name)

const stampFile = (name) => join(local, `${name}.stamp`)
const readStamp = (name) => (existsSync(stampFile(name)) ? readFileSync(stampFile(name), 'utf8') : '')
const writeStamp = (name, value) => {
  mkdirSync(local, { recursive: true })
  writeFileSync(stampFile(name), value)
}

/** npm packages, when package-lock.json is another than the one last installed. */
export function installPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex')
  if (readStamp('packages') === lock && existsSync(join(root, 'node_modules/.package-lock.json'))) return
  console.log('Installing the packages of package-lock.json …')
  execFileSync('npm', ['ci', '--no-progress', '--loglevel=error'], { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] })
  writeStamp('packages', lock)
}

const postgresThere = () =>
  existsSync('/usr/lib/postgresql') &&
  readdirSync('/usr/lib/postgresql').some((v) => existsSync(`/usr/lib/postgresql/${v}/bin/initdb`))
const chromiumThere = () => existsSync('/usr/bin/chromium')

/** Debian's packages for what is missing: installs them as root, and says which command to run where it may not. */
export function installPrograms({ chromium }) {
  const missing = [
    ...(postgresThere() || process.env.DATABASE_URL ? [] : ['postgresql']),
    ...(chromium && !chromiumThere() ? ['chromium'] : []),
  ]
  if (!missing.length) return
  const command = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`
  const may = process.getuid?.() === 0 && spawnSync('sh', ['-c', 'command -v apt-get'], { stdio: 'ignore' }).status === 0
  if (!may) {
    console.error(`Missing: ${missing.join(', ')}. Run this, then try again:  sudo sh -c '${command}'`)
    process.exit(69)
  }
  console.log(`Installing ${missing.join(' and ')} from Debian's packages …`)
  // The package would make a cluster of its own: ours is private, so it need not.
  if (missing.includes('postgresql')) {
    mkdirSync('/etc/postgresql-common/createcluster.d', { recursive: true })
    writeFileSync('/etc/postgresql-common/createcluster.d/none.conf', 'create_main_cluster = false\n')
  }
  const done = spawnSync('sh', ['-c', command], {
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  })
  if (
    done.status !== 0 ||
    (missing.includes('postgresql') && !postgresThere()) ||
    (missing.includes('chromium') && !chromiumThere())
  ) {
    console.error(`${done.stderr.split('\n').slice(-8).join('\n')}\nThat did not work. Run it yourself:  ${command}`)
    process.exit(69)
  }
}

/** A port nobody listens on, below those that outgoing connections use. */
export async function freePort(from = 15432) {
  for (let port = from; port < 32768; port++) {
    const free = await new Promise((resolve) => {
      const server = createServer()
      server.once('error', () => resolve(false))
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)))
    })
    if (free) return port
  }
  throw new Error('no free port')
}

/** Starts (or finds) a private PostgreSQL in a folder; gives its URL. */
export async function startPostgres(home, { fsync = 'on' } = {}) {
  mkdirSync(home, { recursive: true })
  const portFile = join(home, 'port')
  const running =
    existsSync(portFile) &&
    spawnSync(join(root, 'scripts/pg'), ['status'], { env: pgEnv(home, readFileSync(portFile, 'utf8')), stdio: 'ignore' })
      .status === 0
  if (!running) writeFileSync(portFile, String(await freePort()))
  const env = { ...pgEnv(home, readFileSync(portFile, 'utf8')), PGFSYNC: fsync }
  const url = execFileSync(join(root, 'scripts/pg'), ['start'], {
    env,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  }).trim()
  return {
    url,
    env,
    stop: () => spawnSync(join(root, 'scripts/pg'), ['stop'], { env, stdio: 'ignore' }),
    destroy: () => spawnSync(join(root, 'scripts/pg'), ['destroy'], { env, stdio: 'ignore' }),
  }
}

const pgEnv = (home, port) => ({ ...process.env, PGHOME: home, PGPORT_APP: port, PGDB: 'mothlamp' })

/** A hash over names, sizes and times of all that a build depends on. */
function sourceStamp() {
  const hash = createHash('sha256')
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = join(folder, entry.name)
      if (entry.isDirectory()) {
        if (!['node_modules', 'dist', 'testing'].includes(entry.name)) walk(path)
      } else if (!/\.test\.tsx?$/.test(entry.name)) {
        const { size, mtimeMs } = statSync(path)
        hash.update(`${path} ${size} ${mtimeMs}\n`)
      }
    }
  }
  walk(join(root, 'packages'))
  hash.update(readStamp('packages'))
  return hash.digest('hex')
}

/** Builds interface and server when a source is newer than the last build. */
export function build() {
  const stamp = sourceStamp()
  const there = existsSync(join(root, 'packages/web/dist/index.html')) && existsSync(join(root, 'packages/server/dist/main.js'))
  if (there && readStamp('build') === stamp) return
  console.log('Building …')
  execFileSync(bin('vite'), ['build', 'packages/web', '--logLevel', 'warn'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  })
  execFileSync(
    bin('rolldown'),
    [
      'packages/server/src/main.ts',
      '--platform',
      'node',
      '--format',
      'esm',
      '--file',
      'packages/server/dist/main.js',
      ...[
        'express',
        'helmet',
        'kysely',
        'pg',
        'pino',
        'pino-http',
        'joi',
        'pngjs',
        'immer',
        'opentype.js',
        'fflate',
        'ws',
        'tinypool',
      ].flatMap((name) => ['--external', name]),
    ],
    { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] },
  )
  writeStamp('build', stamp)
}
