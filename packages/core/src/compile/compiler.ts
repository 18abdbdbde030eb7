import { canonicalJson, checksumOf, jsonLength, sameJson, type PageId } from '../base/index.ts'
import type { Chunks, LetterSpec } from '../artwork/index.ts'
import {
  bookOf,
  CellTable,
  colourOf,
  conductSettings,
  firstLook,
  letterSpecOf,
  memoryPlanOf,
  moreLettersOf,
  pageSettings,
  shownSize,
  withSettings,
  type FaceRecord,
  type Page,
  type PictureRecord,
  type Project,
  type Widget,
} from '../project/index.ts'
import { roleId, type Look } from '../palette/index.ts'
import { colourParts, isCompiledFollow, type SettledOf, type Values } from '../describe/index.ts'
import type { CompileContext, FontSetting } from '../settings/index.ts'
import { widgetKind, type WidgetKind } from '../widgets/index.ts'
import { shownIn, usualLetters, type Cell, type Holds } from '../variables/index.ts'
import type { Book } from '../protocols/index.ts'
import type { Build, BuildHeader, BuildPage, BuildWidget, CompiledConduct, Symbols } from './build.ts'
import { bytesOfText, ContractStamp, folded } from './contract.ts'
import { builtLayout } from './layout.ts'
import { PictureCollector, pictureUse, type PictureUse } from './pictures.ts'
import { planned } from './plan.ts'
import { joinedUses, SheetCollector, sheetKey, type FontUse } from './sheets.ts'
import { typedLetters } from './typing.ts'

/** A question of what is compiled, and what the project answered. */
interface Asked {
  kind:
    | 'cell'
    | 'page'
    | 'widget'
    | 'command'
    | 'sheet'
    | 'colour'
    | 'looks'
    | 'units'
    | 'picture'
    | 'more'
    | 'start'
    | 'face'
    | 'typing'
  id: string
  /** A font of its own, where that is what was asked for. */
  font?: FontSetting
  got: unknown
}

interface CompiledWidget {
  built: BuildWidget
  /** Questions of the compiling with their answers: while all are the same, so is the result. */
  asked: Asked[]
  asksWidgets: boolean
  fonts: FontUse[]
  pictures: PictureUse[]
  /** The compile that last found it as it should be. */
  turn: number
}

/** Records besides widgets that widgets ask about: while they are the same, so are the answers. */
const askedOf = ({ variables, panel, pages, typefaces, pictures, faces, colours, styles, looks, conduct, commands }: Project) => [
  variables,
  panel,
  pages,
  typefaces,
  pictures,
  faces,
  colours,
  styles,
  looks,
  conduct.units,
  commands,
]

type Unstamped = Omit<BuildHeader, 'version' | 'contract' | 'content'>

interface CompiledPage {
  page: Page
  widgets: CompiledWidget[]
  /** Inputs of its background besides the page itself. */
  ground: unknown[]
  fonts: FontUse[]
  pictures: PictureUse[]
  built: BuildPage
  symbols: Symbols['pages'][number]
}

/** Remembers what was compiled; `compile` gives what a compiler without memory would give, only sooner. */
export class Compiler {
  readonly cells = new CellTable()
  private sheets: SheetCollector
  private pictures: PictureCollector
  private widgets = new WeakMap<Widget, CompiledWidget>()
  private pages = new WeakMap<Page, CompiledPage>()
  private texts = new WeakMap<object, string>()
  /** Inputs of the last stamp. */
  private stamped = { text: '', content: 0 }
  private contracts = new ContractStamp()
  private stamps = new WeakMap<object, number>()
  private lengths = new WeakMap<object, number>()
  private symbolParts = new WeakMap<object, unknown>()
  private cellLists = new WeakMap<object, { order: string; list: BuildHeader['cells'] }>()
  private specs = new Map<FontSetting, LetterSpec | null>()
  private turn = 0
  private answers: unknown[] = []
  /** Nothing that a widget may have asked of is another than in the compile before. */
  private calm = false
  /** Texts that keypads of the compiled project may have to show; null until asked for. */
  private typing: string | null = null
  /** Widgets compiled again by the last compile: for measuring. */
  recompiled = 0

  constructor(chunks: Chunks) {
    this.sheets = new SheetCollector(chunks)
    this.pictures = new PictureCollector(chunks)
  }

  compile(stored: Project): Build {
    const project = withSettings(stored)
    this.recompiled = 0
    this.specs.clear()
    this.turn++
    const now = askedOf(project)
    this.calm = now.every((part, i) => part === this.answers[i])
    this.answers = now
    this.typing = null
    const pages = project.pageOrder.map((id) => this.page(project, project.pages[id]!))
    const letters = this.sheets.collect(
      pages.flatMap((p) => p.fonts),
      project.panel.drawsLetters,
    )
    const shown = this.pictures.collect(
      pages.flatMap((p) => p.pictures),
      project.panel.readsRuns,
    )
    const header: Unstamped = {
      format: 1,
      width: project.panel.width,
      height: project.panel.height,
      memory: memoryPlanOf(project.panel),
      touch: { contactMs: project.panel.contactMs, deafMs: project.panel.deafMs },
      link: project.link,
      layout: builtLayout(project.layout),
      looks: project.looks,
      conduct: this.conduct(project),
      startPage: project.startPage ? project.pages[project.startPage]!.number : null,
      pages: pages.map((p) => p.built),
      cells: this.cellList(project),
      sheets: letters.sheets,
      pictures: shown.pictures,
    }
    const book = bookOf(project, this.cells)
    return {
      header: this.stampedHeader(header, book),
      book,
      chunks: { ...letters.chunks, ...shown.chunks },
      problems: [...letters.problems, ...shown.problems],
      symbols: this.symbols(project, pages),
      plan: planned(
        project.panel.artworkKiB * 1024,
        letters.parts,
        shown.parts,
        pages.map(({ built }) => ({ number: built.number, bytes: this.pageBytes(built) })),
      ),
    }
  }

  private context(
    project: Project,
    look: Look,
    asked: Asked[],
    fonts: FontUse[],
    pictures: PictureUse[],
    letters: () => string = () => '',
  ): CompileContext {
    const note = <T>(kind: Asked['kind'], id: string, font?: FontSetting): T => {
      const got = this.lookUp(project, kind, id, font)
      asked.push({ kind, id, ...(font === undefined ? {} : { font }), got })
      return got as T
    }
    return {
      cell: (id) => note<Cell | null>('cell', id),
      pageNumber: (id) => note<number | null>('page', id),
      widgetNumber: (id) => note<number | null>('widget', id),
      commandNumber: (id) => note<number | null>('command', id),
      sheet: (font) => {
        const spec = this.letterSpec(project, font)
        const needed = spec ? letters() : ''
        if (spec && needed) fonts.push({ spec, letters: needed + note<string>('more', '', font) })
        return note<string | null>('sheet', '', font)
      },
      colour: (colour) => {
        const { base, tint } = colourParts(colour)
        if (base.startsWith('colour:')) {
          note('looks', '')
          note('colour', base)
        }
        if (tint) note('colour', roleId('surface'))
        return colourOf(project, colour, look)
      },
      face: (id) => note<FaceRecord | undefined>('face', id)?.face ?? null,
      picture: (id) => {
        const picture = note<PictureRecord | undefined>('picture', id)
        if (!picture) return null
        const { base } = colourParts(picture.ground)
        if (!picture.keepsAlpha && base.startsWith('colour:')) {
          note('looks', '')
          note('colour', base)
          note('colour', roleId('surface'))
        }
        const use = pictureUse(picture, colourOf(project, picture.ground, look))
        pictures.push(use)
        return { key: use.key, ...shownSize(picture), opaque: !picture.keepsAlpha }
      },
    }
  }

  private lookUp(project: Project, kind: Asked['kind'], id: string, font?: FontSetting): unknown {
    if (kind === 'cell') return this.cells.of(project, id)
    if (kind === 'page') return project.pages[id as keyof typeof project.pages]?.number ?? null
    if (kind === 'widget') return project.widgets[id as keyof typeof project.widgets]?.number ?? null
    if (kind === 'command') return project.commands[id as keyof typeof project.commands]?.number ?? null
    if (kind === 'face') return project.faces[id as keyof typeof project.faces]
    if (kind === 'start') {
      const variable = project.variables[id as keyof typeof project.variables]
      return variable?.holds.type === 'text' ? String(variable.initial ?? '') : ''
    }
    if (kind === 'colour') return project.colours[id as keyof typeof project.colours]
    if (kind === 'picture') return project.pictures[id as keyof typeof project.pictures]
    if (kind === 'looks') return project.looks
    if (kind === 'units') return project.conduct.units
    if (kind === 'typing') return (this.typing ??= typedLetters(project))
    if (kind === 'more') return moreLettersOf(project, font!)
    const spec = this.letterSpec(project, font!)
    return spec && sheetKey(spec)
  }

  /** The letters of a font, worked out once a compile: most widgets share a few fonts. */
  private letterSpec(project: Project, font: FontSetting): LetterSpec | null {
    let spec = this.specs.get(font)
    if (spec === undefined) this.specs.set(font, (spec = letterSpecOf(project, font)))
    return spec
  }

  private widget(project: Project, widget: Widget): CompiledWidget {
    const before = this.widgets.get(widget)
    if (before && this.isStillSo(project, before)) {
      before.turn = this.turn
      return before
    }
    this.recompiled++
    const asked: CompiledWidget['asked'] = []
    const fonts: FontUse[] = []
    const pictures: PictureUse[] = []
    const kind = widgetKind(widget.kind)
    const described = kind?.settings
    const holdsOf = (id: string) => this.lookUpHolds(project, id, asked)
    const letters = () => this.lettersOf(project, widget, kind, holdsOf, asked)
    const compiled = (look: Look): Values =>
      described?.compile(widget.settings, this.context(project, look, asked, fonts, pictures, letters)) ?? {}
    const settings = compiled(firstLook(project))
    const day = project.looks === 'both' && asked.some((a) => a.kind === 'looks') ? othersOf(settings, compiled('day')) : null
    const followed = Object.values(settings).flatMap((value) => (isCompiledFollow<Cell>(value) ? [value.follow] : []))
    // Variables that it reads, in any setting: when one of them changes, the widget may look different.
    const refs = described?.refs(widget.settings) ?? []
    const read = refs.flatMap(({ ref }) => (ref.use === 'reads' ? [this.cells.of(project, ref.to)] : []))
    const cells = read.filter((cell) => cell !== null && !followed.includes(cell)) as Cell[]
    const built: BuildWidget = {
      number: widget.number,
      kind: widget.kind,
      place: widget.place,
      settings,
      ...(day ? { day } : {}),
      cells: [...cells, ...followed],
      followed,
    }
    const asksWidgets = asked.some(({ kind: what }) => what === 'widget' || what === 'typing')
    const made = { built, asked, asksWidgets, fonts, pictures, turn: this.turn }
    this.widgets.set(widget, made)
    return made
  }

  /** The letters of a kind, in whatever units its numbers may be shown. */
  private lettersOf(
    project: Project,
    widget: Widget,
    kind: WidgetKind | undefined,
    holdsOf: (id: string) => Holds | null,
    asked: Asked[],
  ): string {
    if (!kind?.letters) return usualLetters
    const starts = this.startsOf(project, widget, kind, asked)
    const { units } = project.conduct
    asked.push({ kind: 'units', id: '', got: units })
    if (kind.showsTyping) {
      const typing = this.lookUp(project, 'typing', '') as string
      asked.push({ kind: 'typing', id: '', got: typing })
      return kind.letters(widget.settings, holdsOf) + typing
    }
    const own = kind.letters(widget.settings, holdsOf)
    if (!units.length) return own + starts
    const second = (id: string) => {
      const holds = holdsOf(id)
      return holds && shownIn(holds, units).holds
    }
    return own + kind.letters(widget.settings, second) + starts
  }

  /** Initial texts that a widget shows: it may have letters that they need not have otherwise. */
  private startsOf(project: Project, widget: Widget, kind: WidgetKind, asked: Asked[]): string {
    let starts = ''
    for (const { ref } of kind.settings.refs(widget.settings)) {
      if (ref.use !== 'reads') continue
      const start = this.lookUp(project, 'start', ref.to)
      asked.push({ kind: 'start', id: ref.to, got: start })
      starts += start as string
    }
    return starts
  }

  private isStillSo(project: Project, { asked, asksWidgets, turn }: CompiledWidget): boolean {
    if (this.calm && !asksWidgets && turn === this.turn - 1) return true
    return asked.every(({ kind, id, font, got }) => this.lookUp(project, kind, id, font) === got)
  }

  private page(project: Project, page: Page): CompiledPage {
    // A shared layer lies over each of its pages like a part of them.
    const shared = page.kind === 'page' && page.layer !== '' ? (project.pages[page.layer as PageId]?.widgets ?? []) : []
    const widgets = [...page.widgets, ...shared].map((id) => this.widget(project, project.widgets[id]!))
    const before = this.pages.get(page)
    const asked: Asked[] = []
    const pictures: PictureUse[] = []
    const settings = this.pageSettings(project, page, firstLook(project), asked, pictures)
    const day =
      project.looks === 'both' && asked.some((a) => a.kind === 'looks')
        ? this.pageSettings(project, page, 'day', asked, pictures)
        : null
    const ground = asked.map(({ got }) => got)
    if (before && sameList(before.widgets, widgets) && sameList(before.ground, ground)) return before
    const symbols = {
      number: page.number,
      id: page.id,
      name: page.name,
      widgets: page.widgets.map((id) => ({ number: project.widgets[id]!.number, id, name: project.widgets[id]!.name })),
    }
    const made = {
      page,
      widgets,
      ground,
      fonts: joinedUses(widgets.flatMap((w) => w.fonts)),
      pictures: [...pictures, ...widgets.flatMap((w) => w.pictures)],
      symbols,
      built: {
        number: page.number,
        kind: page.kind,
        background: settings.background,
        ...(day ? { dayBackground: day.background } : {}),
        sends: settings.sends,
        veil: settings.veil,
        showsForMs: settings.showsForMs,
        then: settings.thenPage,
        skips: settings.skips,
        rules: settings.rules,
        widgets: widgets.map((w) => w.built),
      },
    }
    this.pages.set(page, made)
    return made
  }

  private pageSettings(project: Project, page: Page, look: Look, asked: Asked[], pictures: PictureUse[]) {
    return pageSettings.compile({ ...page }, this.context(project, look, asked, [], pictures)) as SettledOf<
      typeof pageSettings.fields
    >
  }

  private conduct(project: Project): CompiledConduct {
    const compiled = conductSettings.compile(project.conduct, this.context(project, firstLook(project), [], [], []))
    return { ...(compiled as SettledOf<typeof conductSettings.fields>), darkest: project.panel.darkest }
  }

  /** Data type of an id, noted as asked: when it changes, the needed characters may change. */
  private lookUpHolds(project: Project, id: string, asked: CompiledWidget['asked']): Holds | null {
    const got = this.cells.of(project, id)
    asked.push({ kind: 'cell', id, got })
    return got?.holds ?? null
  }

  private cellList(project: Project): BuildHeader['cells'] {
    const { order } = project.panel
    const before = this.cellLists.get(project.variables)
    if (before?.order === order) return before.list
    const list = Object.values(project.variables)
      .map((variable) => this.cells.built(variable, project.panel))
      .sort((a, b) => a.cell.address - b.cell.address || a.cell.words - b.cell.words || a.cell.index - b.cell.index)
    this.cellLists.set(project.variables, { order, list })
    return list
  }

  /** A header with its stamps. That of its content is made when somebody asks: at hand-off, not while a finger drags. */
  private stampedHeader(header: Unstamped, book: Book): BuildHeader {
    const contract = this.contracts.of(header, book)
    const contentOf = () => this.contentOf(header)
    return {
      ...header,
      version: folded(contract),
      contract,
      get content() {
        return contentOf()
      },
    }
  }

  /** A stamp over everything in the header: CRC-32 of the stamps of its parts. */
  private contentOf(header: Unstamped): number {
    const { pages, cells, sheets, pictures, ...rest } = header
    const stamps = [...pages.map((p) => this.pageStamp(p)), this.remembered(cells, () => cells.map((c) => this.stamp(c)).join())]
    const parts = [this.keysText(rest), this.keysText(sheets), canonicalJson(stamps)]
    if (Object.keys(pictures).length) parts.push(canonicalJson(pictures))
    const text = `[${parts.join()}]`
    if (this.stamped.text !== text) {
      this.stamped = { text, content: checksumOf('crc-32', bytesOfText(text)) }
    }
    return this.stamped.content
  }

  /** The canonical text of a record, of which each value is written once as long as it is the same object. */
  private keysText(record: Readonly<Record<string, unknown>>): string {
    const told = Object.keys(record)
      .filter((key) => record[key] !== undefined)
      .sort()
      .map((key) => `${JSON.stringify(key)}:${this.text(record[key])}`)
    return `{${told.join()}}`
  }

  private text(value: unknown): string {
    if (typeof value !== 'object' || value === null) return JSON.stringify(value)
    let text = this.texts.get(value)
    if (text === undefined) this.texts.set(value, (text = canonicalJson(value)))
    return text
  }

  private pageStamp(page: BuildPage): number {
    return this.remembered(page, () => {
      const { widgets, ...rest } = page
      return checksumOf('crc-32', bytesOfText(canonicalJson([rest, widgets.map((w) => this.stamp(w))])))
    })
  }

  /** Bytes of a page as its build is written. */
  private pageBytes(page: BuildPage): number {
    let known = this.lengths.get(page)
    if (known === undefined) {
      const { widgets, ...rest } = page
      known = jsonLength(rest) + widgets.reduce((sum, widget) => sum + this.widgetBytes(widget), 0)
      this.lengths.set(page, known)
    }
    return known
  }

  private widgetBytes(widget: BuildWidget): number {
    let known = this.lengths.get(widget)
    if (known === undefined) this.lengths.set(widget, (known = jsonLength(widget)))
    return known
  }

  private stamp(part: object): number {
    let known = this.stamps.get(part)
    if (known === undefined) this.stamps.set(part, (known = checksumOf('crc-32', bytesOfText(canonicalJson(part)))))
    return known
  }

  private symbols(project: Project, pages: readonly CompiledPage[]): Symbols {
    return {
      pages: pages.map((p) => p.symbols),
      variables: this.remembered(project.variables, () =>
        Object.values(project.variables).map((v) => ({
          index: v.number,
          id: v.id,
          name: v.name,
        })),
      ),
    }
  }

  private remembered<T>(owner: object, make: () => T): T {
    let found = this.symbolParts.get(owner) as T | undefined
    if (found === undefined) {
      found = make()
      this.symbolParts.set(owner, found)
    }
    return found
  }
}

const sameList = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((one, i) => one === b[i])

/** The values that are others than those of a record with the same keys; null where all are the same. */
function othersOf(values: Values, others: Values): Values | null {
  const changed = Object.entries(others).filter(([key, value]) => !sameJson(value, values[key]))
  return changed.length ? Object.fromEntries(changed) : null
}
