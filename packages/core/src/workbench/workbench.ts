import { lookNames, type Look } from '../palette/index.ts'
import { lampBinary, type Direction, type EventKind, type Message } from '../frames/index.ts'
import type { Rect } from '../base/index.ts'
import { madeFrom, type Chunks } from '../artwork/index.ts'
import { layoutProblems } from '../protocols/index.ts'
import { Compiler, compileHost, type Build, type HostBuild } from '../compile/index.ts'
import { compileExchange, readyRig, Runner, type ExchangeResult } from '../exchanges/index.ts'
import { checkProject, Viewer, widthFor, type Finding } from '../findings/index.ts'
import type { HostValue, TextExtent } from '../host/index.ts'
import {
  applyPatches,
  systemVariablesOf,
  passGate,
  type Assets,
  type Patch,
  type Project,
  type Request,
} from '../project/index.ts'
import { Surface } from '../raster/index.ts'
import { Rig } from '../rig/index.ts'
import type { Exchange } from '../scripts/index.ts'
import type { Value } from '../variables/index.ts'

/** A variable as the panel holds it. */
export interface LiveValue {
  value: Value
  inRange: boolean
  stale: boolean
  /** Host or touch have written it since power-on. */
  written: boolean
}

/** The power-on alone. */
const noExchange: Exchange = { id: 'exchange:none', name: '', seed: 1, allowsOthers: false, steps: {}, stepOrder: [] }

/** One project, built and running. */
export class Workbench {
  project: Project
  build: Build
  hostBuild: HostBuild
  rig: Rig
  /** Variables whose values were reset by the last change, by name. */
  reset: string[] = []
  /** Variables whose start value the last change made another than what they have, by name. */
  startsAt: string[] = []
  private compiler: Compiler
  private viewer: Viewer
  private found: { project: Project; findings: Finding[] } | null = null
  private previewing = false

  /** The layout of a project that is opened must have one reading; otherwise it runs with lamp binary until that is mended. */
  constructor(
    project: Project,
    assets: Assets,
    private seed = 7,
    chunks: Chunks = madeFrom(assets),
  ) {
    this.project = project
    this.compiler = new Compiler(chunks)
    this.viewer = new Viewer(assets)
    const [build, host] = this.compile(this.usableOf(project))
    this.build = build
    this.hostBuild = host
    this.rig = new Rig(build, host, seed)
  }

  private lastGood: Project['layout'] | null = null

  /** The layout of the project cannot be used, and the last one that could runs instead. */
  runsLastGood = false

  /** A layout with two readings cannot run: the last good one stays in the build until it is mended. */
  private usableOf(project: Project): Project {
    this.runsLastGood = layoutProblems(project.layout).length > 0
    if (!this.runsLastGood) {
      this.lastGood = project.layout
      return project
    }
    return { ...project, layout: this.lastGood ?? lampBinary }
  }

  private compile(project: Project): [Build, HostBuild] {
    return [this.compiler.compile(project), compileHost(project, this.compiler.cells)]
  }

  /** Widgets compiled again by the last change: for measuring. */
  get recompiled(): number {
    return this.compiler.recompiled
  }

  /** Takes a new state of the document: built, swapped in, values following their variables. */
  take(project: Project): void {
    this.project = project
    const [build, host] = this.compile(this.usableOf(project))
    this.build = build
    this.hostBuild = host
    const { reset, startsAt } = this.rig.become(build, host)
    this.reset = reset
    this.startsAt = startsAt
    if (this.pretended) this.pretendAgain()
  }

  /** Patches of a change made elsewhere. False: they do not fit, and the document must be sent whole. */
  applyPatches(patches: readonly Patch[]): boolean {
    const next = applyPatches(this.project, patches)
    if (next) this.take(next)
    return next !== null
  }

  /** A change that is only looked at, as while dragging: shown on the glass, gone with `cancelPreview`. */
  preview(request: Request): void {
    const done = passGate(this.project, request)
    if (!done.ok) return
    const [build, host] = this.compile(this.usableOf(done.value.project))
    this.rig.become(build, host)
    this.previewing = true
  }

  cancelPreview(): void {
    if (this.previewing) {
      this.usableOf(this.project)
      this.rig.become(this.build, this.hostBuild)
    }
    this.previewing = false
  }

  /** Chunks have come, or an asset: the build has them now. The document is the same. */
  chunksCame(): void {
    const [build, host] = this.compile(this.usableOf(this.project))
    this.build = build
    this.hostBuild = host
    this.rig.become(build, host)
    this.found = null
  }

  findings(): Finding[] {
    if (this.found?.project !== this.project)
      this.found = { project: this.project, findings: checkProject(this.viewer.view(this.project, this.build)) }
    return this.found.findings
  }

  /** Which of its two looks the panel shows: as if its own word had been written. */
  showLook(look: Look): void {
    this.rig.panel.memory.setOwn('look', lookNames.indexOf(look))
  }

  advance(us: number): void {
    this.rig.advance(us)
  }

  /** Power off, and on again: panel and host begin anew, and with them the conversation. */
  restart(): void {
    this.rig.stop()
    this.rig = new Rig(this.build, this.hostBuild, this.seed)
    if (this.pretended) this.pretendAgain()
  }

  /** The page the desk draws from now on, by its id; null: none. */
  lookAt(id: string | null): void {
    this.rig.panel.onDesk.lookAt(this.build.symbols.pages.find((p) => p.id === id)?.number ?? null)
  }

  private pretended: { values: Record<string, Value>; stale: boolean } | null = null

  /** Has the desk show other values, by variable id, than the panel holds, until it is told otherwise; null: what it holds. */
  pretend(values: Record<string, Value> | null, stale = false): void {
    this.pretended = values && { values, stale }
    this.pretendAgain()
  }

  /** A panel that has begun anew knows nothing of it. */
  private pretendAgain(): void {
    const { values, stale } = this.pretended ?? {}
    const at = this.build.symbols.variables.flatMap(({ id, index }) =>
      values && id in values ? [[index, values[id]!] as const] : [],
    )
    this.rig.panel.onDesk.pretend(values ? { values: new Map(at), stale: stale === true } : null)
  }

  paint(): Rect[] {
    return this.rig.paint()
  }

  /** How wide a widget must be to show a text, px; null where that is not known. */
  widthFor(id: string, text: string): number | null {
    const view = this.viewer.view(this.project)
    const widget = view.project.widgets[id as keyof typeof view.project.widgets]
    return widget ? widthFor(view, widget, text) : null
  }

  /** Any page as it would look now, without the panel knowing. Null: no such page. */
  paintPage(id: string): Surface | null {
    const number = this.build.symbols.pages.find((p) => p.id === id)?.number
    if (number === undefined) return null
    const surface = new Surface(this.build.header.width, this.build.header.height)
    this.rig.panel.onDesk.paintPage(number, surface)
    return surface
  }

  /** The values the panel holds, by variable id. */
  values(): Record<string, LiveValue> {
    const byIndex = new Map(this.rig.values().map((v) => [v.index, v]))
    const out: Record<string, LiveValue> = {}
    for (const { id, index } of this.build.symbols.variables) {
      const found = byIndex.get(index)
      if (found) out[id] = { value: found.value, inRange: found.inRange, stale: found.stale, written: found.written }
    }
    return out
  }

  private ids: { of: Build; byIndex: ReadonlyMap<number, string> } | null = null

  /** Ids of the variables of the build, by the index of their cells. */
  private get idsOfVariables() {
    if (this.ids?.of === this.build) return this.ids.byIndex
    const byIndex = new Map(this.build.symbols.variables.map(({ id, index }) => [index, id]))
    this.ids = { of: this.build, byIndex }
    return byIndex
  }

  /**
   * Of the values that the panel holds, those that may be others than when this was last asked, by variable id; `all`: every one,
   * as after a power cycle or with another build.
   */
  newValues(): { all: boolean; values: Record<string, LiveValue> } {
    const { panel } = this.rig
    const news = panel.takeNews()
    if (!news) return { all: true, values: this.values() }
    const values: Record<string, LiveValue> = {}
    for (const cell of news) {
      const { value, inRange, stale, written } = panel.read(cell)
      const id = this.idsOfVariables.get(cell.index)
      if (id) values[id] = { value, inRange, stale, written }
    }
    return { all: false, values }
  }

  /** The same of what the host believes. */
  newHostValues(): { all: boolean; values: (Omit<HostValue, 'cell'> & { id: string })[] } {
    const { host } = this.rig
    const news = host.takeNews()
    const values = (news ?? host.values()).map(({ cell, name, value, owned }) => ({
      id: this.idsOfVariables.get(cell.index) ?? '',
      name,
      value,
      owned,
    }))
    return { all: !news, values }
  }

  /** The values of the panel's own words, by id. */
  ownValues(): Record<string, Value> {
    const cells = systemVariablesOf(this.project.panel).map(({ id }) => [id, this.compiler.cells.of(this.project, id)] as const)
    return Object.fromEntries(cells.flatMap(([id, cell]) => (cell ? [[id, this.rig.panel.read(cell).value]] : [])))
  }

  /** The frames that a press of a widget, or its lifting, would send now. */
  framesOf(widget: string, moment: EventKind): { message: Message; bytes: Uint8Array }[] {
    const number = this.project.widgets[widget as keyof typeof this.project.widgets]?.number
    return number === undefined ? [] : this.rig.panel.framesOf(number, moment)
  }

  /** Gives a variable its start value again. */
  resetVariable(id: string): void {
    const cell = this.compiler.cells.of(this.project, id)
    if (cell) this.rig.panel.reset(cell.index)
  }

  hostWrites(id: string, value: Value, extent?: TextExtent): void {
    const cell = this.compiler.cells.of(this.project, id)
    if (cell) this.rig.host.write(cell, value, extent)
  }

  hostAsks(id: string): void {
    const cell = this.compiler.cells.of(this.project, id)
    if (cell) this.rig.host.ask(cell)
  }

  /** The bytes the next write of a value would have; null where the value does not fit. */
  previewWrite(id: string, value: Value, extent?: TextExtent): Uint8Array | null {
    const cell = this.compiler.cells.of(this.project, id)
    return cell ? this.rig.host.preview(cell, value, extent) : null
  }

  /** Sends a command as the host; null or no value: as the host knows it. */
  hostCommands(id: string, values: readonly (Value | null)[]): void {
    const command = this.project.commands[id as keyof typeof this.project.commands]
    if (command) this.rig.host.command(command.number, values)
  }

  /** The bytes the next send of a command would have; null where it cannot be said. */
  previewCommand(id: string, values: readonly (Value | null)[]): Uint8Array | null {
    const command = this.project.commands[id as keyof typeof this.project.commands]
    return command ? this.rig.host.previewCommand(command.number, values) : null
  }

  sendRaw(direction: Direction, bytes: Uint8Array): void {
    this.rig.sendRaw(direction, bytes)
  }

  /** Runs an exchange on a fresh rig; `null` when there is none of that id. */
  runExchange(id: string): ExchangeResult | null {
    return this.exchange(id)?.finish() ?? null
  }

  /**
   * An exchange ready to be run on a fresh rig, in slices or at once; `null` when there is none of that id. Without an id: one that
   * has no steps yet.
   */
  exchange(id: string | null): Runner | null {
    const exchange = id === null ? noExchange : this.project.exchanges[id as keyof typeof this.project.exchanges]
    if (!exchange) return null
    const compiled = compileExchange(this.project, exchange, this.compiler.cells)
    return new Runner(readyRig(this.build, this.hostBuild, compiled.seed), compiled)
  }
}
