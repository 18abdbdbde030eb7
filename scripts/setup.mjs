// Set-up that both commands need before anything else, with nothing but Node there: packages, Debian programs, PostgreSQL, builds.
import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import { brotliCompress, constants, gzip as gzipPacked } from 'node:zlib'

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
  const install = () =>
    execFileSync('npm', ['ci', '--no-progress', '--loglevel=error'], { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] })
  try {
    install()
  } catch {
    // One that was begun by a starter that was killed may still have been writing there.
    console.log('That did not work: once more …')
    install()
  }
  writeStamp('packages', lock)
}

const postgresThere = () =>
  existsSync('/usr/lib/postgresql') &&
  readdirSync('/usr/lib/postgresql').some((v) => existsSync(`/usr/lib/postgresql/${v}/bin/initdb`))
const chromiumThere = () => existsSync('/usr/bin/chromium-headless-shell')

/** Debian's packages for what is missing: installs them as root, and says which command to run where it may not. */
export function installPrograms({ chromium }) {
  const missing = [
    ...(postgresThere() || process.env.DATABASE_URL ? [] : ['postgresql']),
    ...(chromium && !chromiumThere() ? ['chromium-headless-shell'] : []),
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

/** The same by a process beside this one, which may install the packages meanwhile; when it is over. */
export function programsBeside(wanted) {
  const code = `(await import(${JSON.stringify(import.meta.url)})).installPrograms(${JSON.stringify(wanted)})`
  const child = spawn(process.execPath, ['--input-type=module', '-e', code], { stdio: 'inherit' })
  return new Promise((resolve, reject) => {
    child.on('error', reject)
    // It has said why.
    child.on('close', (status) => (status === 0 ? resolve() : process.exit(status ?? 69)))
  })
}

const pgEnv = (home, fsync) => ({ ...process.env, PGHOME: home, PGDB: 'mothlamp', PGFSYNC: fsync })

/**
 * A private PostgreSQL in a folder: started, or found running. With `joining` (a process id) it is shared with others who
 * have joined: `leave` stops it when nobody is left, and only if it was started by joining.
 */
export function startPostgres(home, { fsync = 'on', joining = 0 } = {}) {
  mkdirSync(home, { recursive: true })
  const env = pgEnv(home, fsync)
  const pg = (...args) =>
    spawnSync(join(root, 'scripts/pg'), args, { env, encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] })
  const begin = () => (joining ? pg('join', String(joining)) : pg('start'))
  const begun = begin()
  if (begun.status !== 0) throw new Error('PostgreSQL could not be started: what it said stands above')
  return {
    url: begun.stdout.trim(),
    env,
    /** Whether it answers. */
    isUp: () => pg('status').status === 0,
    again: () => begin().status === 0,
    stop: () => pg('stop'),
    leave: () => pg('leave', String(joining)),
    destroy: () => pg('destroy'),
  }
}

/** Does something that only one may do at a time in this clone, such as installing; who comes second waits. */
export function alone(work) {
  mkdirSync(local, { recursive: true })
  const lock = join(local, 'setup.lock')
  for (let told = false; ;) {
    try {
      writeFileSync(lock, String(process.pid), { flag: 'wx' })
      break
    } catch {
      const holder = existsSync(lock) ? Number(readFileSync(lock, 'utf8')) : 0
      if (holder && !existsSync(`/proc/${holder}`)) rmSync(lock, { force: true })
      else if (!told) console.log(`Waiting for process ${holder}, which is setting up here …`)
      told = true
      spawnSync('sleep', ['0.5'])
    }
  }
  try {
    return work()
  } finally {
    rmSync(lock, { force: true })
  }
}

/** A hash over names, sizes and times of all that a build of some packages depends on. */
function sourceStamp(packages) {
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
  for (const name of packages) walk(join(root, 'packages', name))
  hash.update(readStamp('packages'))
  return hash.digest('hex')
}

/** Builds something when a source is newer than its last build. */
function whenStale(name, packages, results, make) {
  const stamp = sourceStamp(packages)
  if (results.every((file) => existsSync(join(root, file))) && readStamp(name) === stamp) return
  console.log(`Building the ${name} …`)
  make()
  writeStamp(name, stamp)
}

/** Packages that start threads by their own files, and what `pg` asks for where it is there. */
const outside = ['pino', 'pino-http', 'tinypool', 'pg-native', 'pg-cloudflare']

/** Sources for Node in one file with all that they import: a server of one file starts a quarter sooner than one of a thousand. */
export function bundle(source, result) {
  execFileSync(
    bin('rolldown'),
    [source, '--platform', 'node', '--format', 'esm', '--file', result, ...outside.flatMap((name) => ['--external', name])],
    { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] },
  )
}

/** The server, and the tasks that it gives to threads of their own. */
export const serverParts = {
  'packages/server/src/main.ts': 'packages/server/dist/main.js',
  'packages/server/src/work/tasks.ts': 'packages/server/dist/tasks.js',
}

export function buildServer() {
  whenStale('server', ['core', 'contract', 'server'], Object.values(serverParts), () => {
    for (const [source, result] of Object.entries(serverParts)) bundle(source, result)
  })
}

/**
 * Puts a packed form, by brotli and by gzip, beside each file that is packed worth its while: fonts and pictures are already. In a
 * process of its own, where several files are packed at once.
 */
export function pack(folder) {
  const code = `await (await import(${JSON.stringify(import.meta.url)})).packAll(${JSON.stringify(folder)})`
  execFileSync(process.execPath, ['--input-type=module', '-e', code], { stdio: 'inherit' })
}

export async function packAll(folder) {
  const names = readdirSync(folder).filter((name) => /\.(js|css|svg|wasm)$/.test(name))
  const one = async (name) => {
    const bytes = readFileSync(join(folder, name))
    // Nine of eleven steps: the last two take ten times as long for a twelfth less.
    const options = { params: { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } }
    const [brotli, gzip] = await Promise.all([
      promisify(brotliCompress)(bytes, options),
      promisify(gzipPacked)(bytes, { level: 9 }),
    ])
    writeFileSync(join(folder, `${name}.br`), brotli)
    writeFileSync(join(folder, `${name}.gz`), gzip)
  }
  await Promise.all(names.map(one))
}

/** Interface and server. */
export function build() {
  whenStale('interface', ['core', 'contract', 'web'], ['packages/web/dist/index.html'], () => {
    execFileSync(bin('vite'), ['build', 'packages/web', '--logLevel', 'warn'], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
    })
    pack(join(root, 'packages/web/dist/built'))
  })
  buildServer()
}
