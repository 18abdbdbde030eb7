// `npm test`: what a change is likely to break: checks that only read, then the tests, with their own database and browsers.
// `npm run test:all` (`all` among the words): everything, the tests in `….all.test.ts` too.
// One stage alone: `npm test -- core`; stages: lint, format, directions, types, core, server, interface.
import { Buffer } from 'node:buffer'
import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { countCpu } from './cpu.mjs'
import { bin, build, installPackages, programsBeside, root, startPostgres } from './setup.mjs'

const isAll = process.argv.includes('all')
const wanted = process.argv.slice(2).filter((word) => word !== 'all')
const wants = (stage) => !wanted.length || wanted.includes(stage)
process.env.NO_COLOR = '1'
if (isAll) process.env.TESTS = 'all'
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

/** Runs Vitest over some projects, or some files of them, and gives its results by file; null where it broke. */
async function vitest(names, files = []) {
  const file = join(root, 'build/tests.json')
  rmSync(file, { force: true })
  const projects = names.flatMap((name) => ['--project', name])
  const args = ['run', ...files, ...projects, '--reporter=dot', '--reporter=json', `--outputFile.json=${file}`]
  const child = spawn(bin('vitest'), args, { cwd: root, stdio: 'inherit', env: process.env })
  const status = await new Promise((resolve) => child.on('close', resolve))
  return { status, results: existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')).testResults : [] }
}

/** How many of a file's tests passed; what broke before its first test, or beside its tests, counts as one failure. */
function countsOf({ status, assertionResults }) {
  const right = assertionResults.filter((test) => test.status === 'passed').length
  // One that was skipped has not passed.
  const wrong = assertionResults.length - right
  return { passed: right, failed: wrong || (status === 'passed' ? 0 : 1) }
}

const unsteady = []
const dearest = []
/**
 * The tests of some stages at once, so that nothing waits for the last of a stage. A file of the interface that fails is run once
 * more, alone: what passes only then is named at the end. The seconds told are those of its tests.
 */
async function tests(names) {
  console.log(`== ${names.join(', ')}`)
  const { status, results } = await vitest(names)
  let wrong = 0
  for (const [i, result] of results.entries()) {
    if (stageOf(result.name) !== 'interface' || !countsOf(result).failed) continue
    const name = relative(root, result.name)
    console.log(`== ${name} once more, alone`)
    const again = (await vitest(['interface'], [name])).results.find((other) => other.name === result.name)
    if (!again || countsOf(again).failed) continue
    const failed = result.assertionResults.filter((test) => test.status !== 'passed').map((test) => test.fullName.trim())
    unsteady.push(`${name}${failed.length ? `: ${failed.join('; ')}` : ''}`)
    results[i] = again
    wrong++
  }
  const secondsOf = ({ startTime, endTime }) => (endTime - startTime) / 1000
  for (const name of names) {
    const files = results.filter((result) => stageOf(result.name) === name)
    const counts = files.map(countsOf)
    const sum = (key) => counts.reduce((all, one) => all + one[key], 0)
    const result = { passed: sum('passed'), failed: sum('failed') + (files.length ? 0 : 1) }
    wrong += result.failed
    told(
      name,
      result,
      files.reduce((all, one) => all + secondsOf(one), 0),
    )
  }
  const byTime = results.map((result) => [secondsOf(result), relative(root, result.name)]).sort((a, b) => b[0] - a[0])
  dearest.push(...byTime.slice(0, 10))
  // Failures beside all tests: an error that nobody caught, a setup that broke.
  if (status !== 0 && !wrong) told('the run', { passed: 0, failed: 1 }, 0)
}

const from = Date.now()
const cpu = countCpu()
const sources = ['core', 'contract', 'server', 'web'].map((name) => `packages/${name}/src`)
/** Files that passed and have not changed are skipped. */
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
    await tests(stages)
  } finally {
    postgres?.destroy()
    rmSync(home, { recursive: true, force: true })
  }
}
console.log(`\n${rows.join('\n')}\n\nall of it ${((Date.now() - from) / 1000).toFixed(0)} s`)
if (dearest.length) {
  console.log('\nthe ten dearest files, seconds by the clock:')
  for (const [seconds, name] of dearest) console.log(`${seconds.toFixed(1).padStart(7)}  ${name}`)
}
cpu?.look()
if (cpu) {
  const seconds = cpu.seconds()
  console.log(`\n${seconds.toFixed(0)} CPU seconds after set-up`)
  if (!isAll && seconds > 600)
    console.log('That is more than the 600 that npm test may take: move the dearest tests to ….all.test.ts.')
  if (!isAll && seconds > 900) told('the 900 CPU seconds that are the end of it', { passed: 0, failed: 1 }, 0)
}
if (unsteady.length) console.log(`\nunsteady: ${unsteady.join('\nunsteady: ')}`)
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed || !passed ? 1 : 0)
