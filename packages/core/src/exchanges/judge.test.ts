import { describe, expect, test } from 'vitest'
import { LogIndex, logText } from '../explain/index.ts'
import { bookOf, type Project } from '../project/index.ts'
import { protocolFor } from '../protocols/index.ts'
import { mustHold } from '../base/index.ts'
import { demo, edited, otherDemo } from '../testing/demo.ts'
import { Workbench } from '../workbench/index.ts'
import { exchangeSheet, judgeLog, sheetText } from './index.ts'

/** The conversation of an exchange that is run, as the Bench saves it. */
function logOf(project: Project, assets: typeof demo.assets, id: string): string {
  const result = new Workbench(project, assets).runExchange(id)!
  expect(result.passed).toBe(true)
  const frames = result.rig.conversation.all().filter(({ kind }) => kind === 'frame' || kind === 'bad')
  return logText(mustHold(protocolFor(project.layout, bookOf(project))), frames)
}

function judge(project: Project, id: string, log: string) {
  const index = LogIndex.of(project.layout, bookOf(project))!.readAll(log)
  return judgeLog(project, project.exchanges[id as keyof typeof project.exchanges]!, index)!
}

const demos = [
  ['Heron Hill', demo],
  ['Quay ramp', otherDemo],
] as const
const all = demos.flatMap(([name, { project, assets }]) =>
  project.exchangeOrder.map((id) => [`${name}: ${project.exchanges[id]!.name}`, project, assets, id] as const),
)

describe('an exchange looked for in the log of the real module', () => {
  test.each(all)('%s is found whole, whatever else was said before', (_, project, assets, id) => {
    const { steps, passed, unexpected } = judge(project, id, logOf(project, assets, id))
    const seen = steps.filter(({ verdict }) => !['by hand', 'not on the wire'].includes(verdict))
    expect(seen.map(({ verdict }) => verdict)).toEqual(seen.map(() => 'found'))
    expect(unexpected).toEqual([])
    expect(passed).toBe(seen.length > 0)
  })

  const one = (project: Project, assets: typeof demo.assets) => {
    for (const id of project.exchangeOrder) {
      const log = logOf(project, assets, id)
      const { steps } = judge(project, id, log)
      const timed = steps.findIndex(
        ({ verdict, isUntimed, row }, k) => verdict === 'found' && row !== null && !isUntimed && k > 0,
      )
      const sought = steps.findIndex(({ verdict, row }) => verdict === 'found' && row !== null)
      if (sought >= 0) return { id, log, steps, timed, sought }
    }
    throw new Error('no exchange with a frame')
  }
  /** The line of a log with something done to it. */
  const withLine = (log: string, line: number, change: (text: string) => string | null): string =>
    log
      .split('\n')
      .flatMap((text, k) => (k === line - 1 ? (change(text) ?? []) : [text]))
      .join('\n')

  test.each(demos)('%s: one byte changed is named, with the byte', (_, { project, assets }) => {
    const { id, log, steps, sought } = one(project, assets)
    const isText = project.layout.toPanel.kind === 'lines'
    const changed = withLine(log, steps[sought]!.line!, (text) =>
      isText
        ? text.replace(/.$/, (c) => (c === '9' ? '8' : c === 'n' ? 'm' : '9'))
        : text.replace(/(..)( ..){3}$/, (last) => `${last.startsWith('0') ? '1F' : '0F'}${last.slice(2)}`),
    )
    const { steps: judged, passed } = judge(project, id, changed)
    expect([passed, judged[sought]!.verdict]).toEqual([false, 'different'])
    expect(judged[sought]!.differsAt).toBeGreaterThan(0)
    expect(judged[sought]!.line).toBe(steps[sought]!.line)
  })

  test.each(demos)('%s: one frame missing is named', (_, { project, assets }) => {
    const { id, log, steps, sought } = one(project, assets)
    const { line } = steps[sought]!
    const key = log.split('\n')[line! - 1]!.split(' ').slice(2).join(' ')
    // With its repeats and what it carries: the whole frame never came.
    const without = log
      .split('\n')
      .filter((text) => !text.endsWith(key))
      .join('\n')
    const judged = judge(project, id, without)
    expect([judged.passed, judged.steps[sought]!.verdict]).toEqual([false, expect.stringMatching(/missing|different/)])
  })

  test('a frame that is late is named, with by how much', () => {
    const late = demos.flatMap(([, { project, assets }]) =>
      project.exchangeOrder.flatMap((id) => {
        const log = logOf(project, assets, id)
        const { steps } = judge(project, id, log)
        const k = steps.findIndex((step, at) => step.verdict === 'found' && step.row !== null && !step.isUntimed && at > 0)
        const step = k < 0 ? null : project.exchanges[id]!.steps[steps[k]!.id]!
        if (!step || !('withinMs' in step.settings)) return []
        const by = Number((step.settings as { withinMs: number }).withinMs) + 1500
        // The frame and all behind it come later.
        const delayed = log
          .split('\n')
          .map((text, line) =>
            line >= steps[k]!.line! - 1 ? text.replace(/^[\d.]+/, (time) => (Number(time) + by / 1000).toFixed(6)) : text,
          )
          .join('\n')
        return [judge(project, id, delayed).steps[k]!]
      }),
    )
    expect(late.length).toBeGreaterThan(0)
    for (const { verdict, lateMs } of late) expect([verdict, lateMs! > 0]).toEqual(['late', true])
  })

  test('a log without times is judged by its order', () => {
    const { project, assets } = demo
    const { id, log } = one(project, assets)
    const plain = log.replaceAll(/^[\d.]+ /gm, '')
    const { passed, steps } = judge(project, id, plain)
    expect([passed, steps.some(({ isUntimed }) => isUntimed)]).toEqual([true, true])
  })

  test('an empty log has nothing of it', () => {
    const { passed, steps } = judge(demo.project, demo.project.exchangeOrder[0]!, '')
    expect(passed).toBe(false)
    expect(steps.some(({ verdict }) => verdict === 'missing')).toBe(true)
  })
})

describe('a terminal sheet', () => {
  test.each(all)('%s has a line for each step, with frames in hex', (_, project, _assets, id) => {
    const exchange = project.exchanges[id]!
    const lines = exchangeSheet(project, exchange, (of) => of)!
    expect(lines.map(({ number }) => number)).toEqual(exchange.stepOrder.map((_id, k) => k + 1))
    for (const { does, hex, words } of lines) {
      expect(words).not.toMatch(/undefined|object/)
      if (does === 'send') expect(hex).not.toBe('')
    }
    expect(sheetText(project, exchange, lines)).toContain(exchange.name)
  })
  test('a byte that depends on the number of the frame is left open, and the reply is told', () => {
    const base = edited(demo.project, 'add exchange', { id: 'exchange:s', after: '', name: 'sheet' })
    const step = (project: Project, id: string, kind: string, settings: object) =>
      edited(project, 'add step', { exchange: 'exchange:s', id: `step:${id}`, kind, after: '', settings })
    const project = step(
      step(base, 'b', 'expect report', { variable: 'variable:dome_target', value: '231.0' }),
      'a',
      'host writes',
      {
        variable: 'variable:dome_target',
        value: '231.0',
      },
    )
    const exchange = project.exchanges['exchange:s' as keyof typeof project.exchanges]!
    const lines = exchangeSheet(project, exchange, (of) => of)!
    const report = lines.find(({ does }) => does === 'expect')!
    expect(report.hex).toMatch(/^7E \.\. 12 00 06 09 \.\. \.\. 7E$/)
    expect(report.reply).toMatch(/^7E \.\. 12 00/)
    expect(lines.find(({ does }) => does === 'send')!.hex).toMatch(/^7E [0-9A-F]1 12 00 06 09 [0-9A-F]{2} [0-9A-F]{2} 7E$/)
  })
})
