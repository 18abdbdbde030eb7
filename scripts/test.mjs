// `npm test`: everything that must pass: checks that only read, then the tests, with their own database and browsers.
// One stage alone: `npm test -- core`; stages: lint, format, directions, types, core, server, interface.
import { Buffer } from 'node:buffer'
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bin, build, installPackages, programsBeside, root, startPostgres } from './setup.mjs'

const wanted = process.argv.slice(2)
const wants = (stage) => !wanted.length || wanted.includes(stage)
process.env.NO_COLOR = '1'
const programs = programsBeside({ chromium: wants('interface') })
installPackages()
await programs
mkdirSync(join(root, 'build'), { recursive: true })

const rows = []
let passed = 0
let failed = 0
function told(name, result, seconds) {
  passed += result.passed
  failed += result.failed
  rows.push(
    `${result.failed ? 'FAILED' : 'passed'}  ${name.padEnd(10)} ${String(result.passed).padStart(5)} passed ${String(result.failed).padStart(4)} failed   ${seconds.toFixed(1).padStart(6)} s`,
  )
}

/** A check by one program, whose words are told when it has ended. */
const once = (command, args) =>
  new Promise((resolve) => {
    const words = []
    const child = spawn(command, args, { cwd: root })
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => words.push(part))
    child.on('error', (error) => words.push(Buffer.from(String(error))))
    child.on('close', (code) => resolve({ passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, words: Buffer.concat(words) }))
  })

/** Stages that only read, side by side: the machines have two cores. */
async function together(stages) {
  const waiting = stages.filter(({ name }) => wants(name))
  const work = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const { name, run } = next
      const from = Date.now()
      const result = await run()
      console.log(`== ${name}`)
      process.stdout.write(result.words)
      told(name, result, (Date.now() - from) / 1000)
    }
  }
  await Promise.all([work(), work()])
}

/** Which stage a file of tests belongs to. */
const stageOf = (file) =>
  file.startsWith(join(root, 'e2e')) ? 'interface' : file.startsWith(join(root, 'packages/server')) ? 'server' : 'core'

/** The tests of some stages at once, so that nothing waits for the last of a stage. The seconds told are those of its tests. */
function tests(names) {
  const file = join(root, 'build/tests.json')
  rmSync(file, { force: true })
  console.log(`== ${names.join(', ')}`)
  const projects = names.flatMap((name) => ['--project', name])
  const { status } = spawnSync(
    bin('vitest'),
    ['run', ...projects, '--reporter=dot', '--reporter=json', `--outputFile.json=${file}`],
    {
      cwd: root,
      stdio: 'inherit',
      env: process.env,
    },
  )
  const results = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')).testResults : []
  let wrong = 0
  for (const name of names) {
    const files = results.filter((result) => stageOf(result.name) === name)
    const all = files.flatMap((result) => result.assertionResults)
    const right = all.filter((test) => test.status === 'passed').length
    // A file that broke before its first test, or beside its tests, counts as one failure.
    const broken = files.filter(
      (f) => f.status !== 'passed' && !f.assertionResults.some((test) => test.status === 'failed'),
    ).length
    // One that was skipped has not passed.
    const result = { passed: right, failed: all.length - right + broken + (files.length ? 0 : 1) }
    wrong += result.failed
    told(name, result, files.reduce((sum, { startTime, endTime }) => sum + (endTime - startTime), 0) / 1000)
  }
  // What failed beside all tests: an error that nobody caught, a setup that broke.
  if (status !== 0 && !wrong) told('the run', { passed: 0, failed: 1 }, 0)
}

const from = Date.now()
const sources = ['core', 'contract', 'server', 'web'].map((name) => `packages/${name}/src`)
/** What was found right and is as it was is not looked at again. */
const cache = (name) => join(root, '.local', name)
await together([
  {
    name: 'lint',
    run: () =>
      once(bin('eslint'), [
        '.',
        '--max-warnings',
        '0',
        '--cache',
        '--cache-strategy',
        'content',
        '--cache-location',
        cache('lint'),
      ]),
  },
  {
    name: 'format',
    run: () =>
      once(bin('prettier'), [
        '--check',
        '--log-level',
        'warn',
        '--cache',
        '--cache-strategy',
        'content',
        '--cache-location',
        cache('format'),
        '.',
      ]),
  },
  {
    name: 'directions',
    run: () =>
      once(bin('depcruise'), [
        ...sources,
        '--config',
        '.dependency-cruiser.mjs',
        '--output-type',
        'err',
        '--cache',
        cache('directions'),
        '--cache-strategy',
        'content',
      ]),
  },
  { name: 'types', run: () => once(process.execPath, ['scripts/types.mjs']) },
])
const stages = ['core', 'server', 'interface'].filter(wants)
if (stages.length) {
  const home = mkdtempSync(join(tmpdir(), 'moth-lamp-pg-'))
  const postgres = wants('server') || wants('interface') ? startPostgres(home) : null
  if (postgres) process.env.TEST_DATABASE_URL = postgres.url
  try {
    if (wants('interface')) build()
    tests(stages)
  } finally {
    postgres?.destroy()
    rmSync(home, { recursive: true, force: true })
  }
}
console.log(`\n${rows.join('\n')}\n\nall of it ${((Date.now() - from) / 1000).toFixed(0)} s\n`)
console.log(`${passed} passed, ${failed} failed`)
process.exit(failed || !passed ? 1 : 0)
