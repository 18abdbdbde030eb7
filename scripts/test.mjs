// `npm test`: everything that must pass, one stage after another, with its own database and browser.
// One stage alone: `npm test -- core`; stages: lint, format, directions, types, core, server, interface.
import { Buffer } from 'node:buffer'
import { spawn, spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bin, build, installPackages, installPrograms, root, startPostgres } from './setup.mjs'

const wanted = process.argv.slice(2)
const wants = (stage) => !wanted.length || wanted.includes(stage)
process.env.NO_COLOR = '1'
installPackages()
installPrograms({ chromium: wants('interface') })
mkdirSync(join(root, 'build'), { recursive: true })

const rows = []
let passed = 0
let failed = 0
function stage(name, run) {
  if (!wants(name)) return
  const from = Date.now()
  console.log(`== ${name}`)
  told(name, run(), from)
}

function told(name, result, from) {
  passed += result.passed
  failed += result.failed
  rows.push(
    `${result.failed ? 'FAILED' : 'passed'}  ${name.padEnd(10)} ${String(result.passed).padStart(5)} passed ${String(result.failed).padStart(4)} failed   ${((Date.now() - from) / 1000).toFixed(1)} s`,
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
  const from = Date.now()
  const work = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const { name, run } = next
      const result = await run()
      console.log(`== ${name}`)
      process.stdout.write(result.words)
      told(name, result, from)
    }
  }
  await Promise.all([work(), work()])
}

function vitest(project) {
  const file = join(root, `build/${project}.json`)
  rmSync(file, { force: true })
  const { status } = spawnSync(
    bin('vitest'),
    ['run', '--project', project, '--reporter=dot', '--reporter=json', `--outputFile.json=${file}`],
    { cwd: root, stdio: 'inherit', env: process.env },
  )
  try {
    const r = JSON.parse(readFileSync(file, 'utf8'))
    // A suite that broke before its first test counts as one failure.
    return { passed: r.numPassedTests, failed: r.numFailedTests || (status === 0 && r.success ? 0 : 1) }
  } catch {
    return { passed: 0, failed: 1 }
  }
}

const sources = ['core', 'contract', 'server', 'web'].map((name) => `packages/${name}/src`)
await together([
  { name: 'lint', run: () => once(bin('eslint'), ['.', '--max-warnings', '0']) },
  { name: 'format', run: () => once(bin('prettier'), ['--check', '--log-level', 'warn', '.']) },
  {
    name: 'directions',
    run: () => once(bin('depcruise'), [...sources, '--config', '.dependency-cruiser.mjs', '--output-type', 'err']),
  },
  { name: 'types', run: () => once(process.execPath, ['scripts/types.mjs']) },
])
stage('core', () => vitest('core'))
if (wants('server') || wants('interface')) {
  const home = mkdtempSync(join(tmpdir(), 'moth-lamp-pg-'))
  const postgres = startPostgres(home)
  process.env.TEST_DATABASE_URL = postgres.url
  try {
    stage('server', () => vitest('server'))
    stage('interface', () => {
      build()
      return vitest('interface')
    })
  } finally {
    postgres.destroy()
    rmSync(home, { recursive: true, force: true })
  }
}
console.log(`\n${rows.join('\n')}\n`)
console.log(`${passed} passed, ${failed} failed`)
process.exit(failed || !passed ? 1 : 0)
