import { edits, freshProject, passGate, plainPanel, type PanelProfile, type Project } from '../project/index.ts'
import type { Holds, Value } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import { Workbench } from '../workbench/index.ts'
import { testAssets, testTypefaces } from './fonts.ts'

type Place = readonly [x: number, y: number, width: number, height: number]

/** A project that a test makes by edits, and the panel that runs it, touched by the names of widgets. */
export class Job {
  project: Project
  private made: Workbench | null = null
  private n = 0

  constructor(panel: Partial<PanelProfile> = {}) {
    this.project = freshProject('Job', { ...plainPanel, width: 400, height: 300, ...panel }, testTypefaces)
  }

  edit(edit: string, args: unknown): this {
    if (!edits.has(edit)) throw new Error(`no edit ${edit}`)
    const done = passGate(this.project, { changeId: `change:job${++this.n}`, edit, args })
    if (!done.ok) throw new Error(`${edit}: ${JSON.stringify(done.problem)}`)
    this.project = done.value.project
    this.made?.take(this.project)
    return this
  }

  variable(
    name: string,
    holds: Holds,
    more: { initial?: Value; travels?: string; stale?: unknown; address?: number } = {},
  ): this {
    return this.edit('add variable', { id: `variable:${name}`, name, values: { travels: 'both', stale: null, ...more, holds } })
  }

  page(name: string, values: Record<string, unknown> = {}, kind = 'page'): this {
    this.edit('add page', { id: `page:${name}`, after: '', name, kind })
    return Object.keys(values).length ? this.edit('set page', { id: `page:${name}`, values }) : this
  }

  /** A widget with what a new one is given; on the first page, where no other is said. */
  widget(
    kind: string,
    name: string,
    [x, y, width, height]: Place,
    settings: Record<string, unknown> = {},
    page = this.first,
  ): this {
    const fresh = widgetKind(kind)!.fresh?.().settings ?? {}
    const widget = { id: `widget:${name}`, kind, name, place: { x, y, width, height }, settings: { ...fresh, ...settings } }
    return this.edit('add widgets', { page, after: '', widgets: [widget] })
  }

  get first(): string {
    return this.project.pageOrder[0]!
  }

  get bench(): Workbench {
    return (this.made ??= new Workbench(this.project, testAssets))
  }

  get panel() {
    return this.bench.rig.panel
  }

  wait(ms: number): this {
    this.bench.advance(ms * 1000)
    return this
  }

  private numberOf(name: string): number {
    return this.project.widgets[`widget:${name}`]!.number
  }

  private at(name: string, px: number, py: number): [number, number] {
    const { x, y, width, height } = this.project.widgets[`widget:${name}`]!.place
    return [Math.floor(x + (width * px) / 100), Math.floor(y + (height * py) / 100)]
  }

  /** A finger on a widget, at hundredths of its width and height, for so long. */
  press(name: string, ms = 60, px = 50, py = 50): this {
    this.down(name, px, py)
    this.wait(ms)
    return this.up(name, px, py)
  }
  down(name: string, px = 50, py = 50): this {
    this.panel.touchDown(...this.at(name, px, py))
    return this.wait(40)
  }
  move(name: string, px: number, py: number): this {
    this.panel.touchMove(...this.at(name, px, py))
    return this.wait(5)
  }
  up(name: string, px = 50, py = 50): this {
    this.panel.touchUp(...this.at(name, px, py))
    return this.wait(5)
  }

  shows(name: string): string | null {
    return this.panel.shows(this.numberOf(name))
  }

  value(variable: string): Value {
    return this.bench.values()[`variable:${variable}`]!.value
  }

  /** The host writes a value, over the line. */
  host(variable: string, value: Value): this {
    this.bench.hostWrites(
      variable.startsWith('own-') || this.project.variables[`variable:${variable}`] ? `variable:${variable}` : variable,
      value,
    )
    return this.wait(30)
  }

  get page_(): string {
    return (
      this.project.pages[this.project.pageOrder.find((id) => this.project.pages[id]!.number === this.panel.pageNumber)!]?.name ??
      ''
    )
  }

  /** Reports of the panel since then, first to last: the address and the words of each report. */
  reports(since: number): [address: number, ...words: number[]][] {
    return this.bench.rig.conversation.since(since).flatMap(({ message }) => {
      if (message?.operation !== 'report') return []
      const { address, payload } = message
      return [[address, ...Array.from({ length: payload.length / 2 }, (_, k) => payload[2 * k]! + 256 * payload[2 * k + 1]!)]]
    })
  }
  get mark(): number {
    return this.bench.rig.conversation.lastId
  }
}

export const whole = (min: number, max: number, unit = ''): Holds => ({
  type: min < 0 ? 'i16' : 'u16',
  factor: 1,
  offset: 0,
  decimals: 0,
  unit,
  min,
  max,
})
export const tenths = (min: number, max: number, unit = ''): Holds =>
  ({ ...whole(min, max, unit), factor: 0.1, decimals: 1 }) as Holds
export const words = (...all: string[]): Holds => ({
  type: 'choice',
  choices: all.map((word, value) => ({ id: `choice:${value + 1}`, value, word })),
})
export const flags = (...names: string[]): Holds => ({ type: 'flags', names })
