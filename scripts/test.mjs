// `npm test`: everything that must pass, one stage after another, with its own database and browser.
// One stage alone: `npm test -- core`; stages: format, lint, types, core, server, interface.
import { spawnSync } from 'node:child_process'
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
  const result = run()
  passed += result.passed
  failed += result.failed
  rows.push(
    `${result.failed ? 'FAILED' : 'passed'}  ${name.padEnd(10)} ${String(result.passed).padStart(5)} passed ${String(result.failed).padStart(4)} failed   ${((Date.now() - from) / 1000).toFixed(1)} s`,
  )
}

const once = (command, args) => () => {
  const ok = spawnSync(command, args, { cwd: root, stdio: 'inherit' }).status === 0
  return { passed: ok ? 1 : 0, failed: ok ? 0 : 1 }
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

stage('format', once(bin('prettier'), ['--check', '--log-level', 'warn', '.']))
stage('lint', () => {
  const eslint = once(bin('eslint'), ['.', '--max-warnings', '0'])()
  const directions = once(bin('depcruise'), [
    'packages/core/src',
    'packages/contract/src',
    'packages/server/src',
    'packages/web/src',
    '--config',
    '.dependency-cruiser.mjs',
    '--output-type',
    'err',
  ])()
  return { passed: eslint.passed + directions.passed, failed: eslint.failed + directions.failed }
})
stage('types', once(process.execPath, ['scripts/types.mjs']))
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
