import { fitWays } from '../artwork/index.ts'
import { newId, type IdKind, type Random, type WidgetId, type VariableId, type PageId, type PictureId } from '../base/index.ts'
import { freshHolds, holdsTypes, travelKinds } from '../variables/index.ts'
import { lampBinary, lengthLedStart } from '../frames/index.ts'
import {
  edits,
  keypadPages,
  keypads,
  pictureSettings,
  undoOf,
  type Change,
  type NewPicture,
  type Project,
  type Request,
} from '../project/index.ts'
import { lookChoices, palettes } from '../palette/index.ts'
import { stepKindNames } from '../scripts/index.ts'
import { noFace } from '../faces/index.ts'
import { widgetKinds } from '../widgets/index.ts'
import { does } from './actions.ts'
import { testTypefaces } from './fonts.ts'

type Args = Record<string, unknown>

/** Makes plausible requests for every edit there is, from a seed: what the law tests are run with. */
export class EditMaker {
  readonly tried = new Set<string>()
  private last: Change | null = null

  constructor(private random: Random) {}

  /** Undo needs to know what was done. */
  saw(change: Change): void {
    this.last = change
  }

  private pick<T>(list: readonly T[]): T {
    return list[this.random.below(list.length)]!
  }
  private id = <K extends IdKind>(kind: K) => newId(kind, this.random)
  private rect = () => ({
    x: this.random.below(700),
    y: this.random.below(400),
    width: 8 + this.random.below(200),
    height: 8 + this.random.below(80),
  })

  /** A request whose edit can apply to this document; null when that edit has nothing to work on here. */
  request(project: Project, name = this.pick([...edits.keys()])): Request | null {
    const changeId = this.id('change')
    if (name === 'undo') {
      const made = this.last && undoOf(this.last, changeId)
      if (made) this.tried.add(name)
      return made
    }
    const args = this.args(project, name)
    if (!args) return null
    this.tried.add(name)
    return { changeId, edit: name, args }
  }

  private args(project: Project, name: string): Args | null {
    const pages = project.pageOrder
    const widgets = Object.keys(project.widgets) as WidgetId[]
    const variables = project.variableOrder
    const exchanges = project.exchangeOrder
    const needsWidget = [
      'delete widgets',
      'hold together',
      'place widgets',
      'set widgets',
      'name widget',
      'order widgets',
      'repeat widgets',
      'lock widgets',
      'set each widget',
      'unlink widgets',
      'set as original',
    ]
    const needsVariable = ['set variable', 'give new address', 'delete variable', 'move variable in the list']
    const needsExchange = [
      'set exchange',
      'delete exchange',
      'move exchange',
      'add step',
      'add steps',
      'set step',
      'delete step',
      'move step',
    ]
    if (needsWidget.includes(name) && !widgets.length) return null
    if (needsVariable.includes(name) && !variables.length) return null
    if (needsExchange.includes(name) && !exchanges.length) return null
    if (name.includes('page') && !pages.length) return null
    if (name.includes('host')) return this.hostArgs(project, name)
    if (needsExchange.includes(name)) return this.exchangeArgs(project, name)
    return this.otherArgs(project, name, pages, widgets, variables)
  }

  private variable = (project: Project): VariableId | '' => (project.variableOrder.length ? this.pick(project.variableOrder) : '')

  private settingsFor(project: Project, kind: string): Args {
    const variable = this.variable(project)
    if (kind === 'button') {
      const rule = this.pick([
        does('pressed', 'step', { variable, by: 1 + this.random.below(5), atEnd: 'wrap' }),
        does('lifted', 'go to page', { page: this.pick(project.pageOrder) }),
        does('pressed', 'set bits', { variable, mask: 4 }),
        does('held', 'send event'),
        does('pressed', 'while held', { variable }),
      ])
      return { rules: [rule], text: `b${this.random.below(99)}` }
    }
    if (kind === 'trend') return { traces: [{ variable, colour: '#12ab34' }], samples: 2 + this.random.below(200) }
    if (kind === 'shape' && project.pictureOrder.length)
      return { face: { ...noFace, fill: 'colour:surface', picture: this.pick(project.pictureOrder) } }
    return kind === 'label'
      ? { text: this.pick(['Dew', 'Wind', 'Ready']), visible: this.random.below(3) ? true : { follows: variable } }
      : kind === 'shape'
        ? {}
        : { variable }
  }

  private otherArgs(
    project: Project,
    name: string,
    pages: readonly PageId[],
    widgets: WidgetId[],
    variables: readonly VariableId[],
  ): Args {
    const widget = widgets.length ? this.pick(widgets) : ('' as WidgetId)
    const kind = this.pick(widgetKinds()).kind
    switch (name) {
      case 'set project':
        return { values: { note: `note ${this.random.below(9)}` } }
      case 'set panel':
        return {
          values: this.random.below(2) ? { diagonalInches: 4 + this.random.below(8) } : { width: 400 + this.random.below(400) },
        }
      case 'set link':
        return { values: { baud: this.pick([9600, 19200, 115200]), tries: 1 + this.random.below(4) } }
      case 'set layout':
        return { values: { ...this.pick([lampBinary, lengthLedStart]) } }
      case 'add page':
        return {
          id: this.id('page'),
          after: this.pick(pages),
          name: this.pick(['Dome', 'Setup']),
          ...(this.random.below(3) ? {} : { kind: this.pick(['layer', 'pop-up', 'keypad']) }),
        }
      case 'add keypad': {
        const kind = this.pick(keypads).kind
        const entry = widgets.find((id) => project.widgets[id]!.kind === 'entry')
        return {
          after: this.pick(pages),
          pages: keypadPages(kind, project.panel, (of) => this.id(of)),
          ...(entry && this.random.below(2) ? { opens: [entry] } : {}),
        }
      }
      case 'hold together': {
        const all = project.pages[project.widgets[this.pick(widgets)]!.page]!.widgets
        const ids = [...new Set([this.pick(all), this.pick(all), this.pick(all)])]
        return { ids, together: this.random.below(3) > 0 }
      }
      case 'add colour':
        return { id: this.id('colour'), name: 'dome', night: '#12ab34', day: '#0a5a1c' }
      case 'set colour':
        return { id: this.pick(project.colourOrder), values: { night: `#0000${10 + this.random.below(80)}` } }
      case 'delete colour':
        return { id: this.pick(project.colourOrder.slice(9)), instead: 'colour:ink' }
      case 'use palette':
        return { palette: this.pick(palettes).name }
      case 'set looks':
        return { looks: this.pick(lookChoices) }
      case 'add style':
        return { id: this.id('style'), name: 'small', typeface: this.pick(project.typefaceOrder) ?? '', size: 12 }
      case 'set style': {
        const values = [{ size: 12 + this.random.below(20) }, { bits: this.pick([1, 2, 4, 8]) }, { more: this.pick(['', '°µ']) }]
        return { id: this.pick(project.styleOrder), values: this.pick(values) }
      }
      case 'name font': {
        const labels = widgets.filter((id) => project.widgets[id]!.kind === 'label').slice(0, 2)
        const font = { typeface: project.typefaceOrder[0] ?? 'typeface:none', size: 20 + this.random.below(9), bits: 4 }
        return { id: this.id('style'), name: 'own', font, widgets: Object.fromEntries(labels.map((id) => [id, ['font']])) }
      }
      case 'set typeface': {
        const id = this.pick([...project.typefaceOrder, 'typeface:none'])
        return { id, values: { fallback: this.pick(['', ...project.typefaceOrder]) } }
      }
      case 'add face': {
        const shape = widgets.find((one) => project.widgets[one]!.kind === 'shape')
        return {
          id: this.id('face'),
          name: 'go',
          face: { ...noFace, fill: 'colour:good', stops: [{ at: 40, colour: 'colour:accent' }] },
          ...(shape ? { widgets: { [shape]: ['face'] } } : {}),
        }
      }
      case 'set face':
        return {
          id: this.pick([...project.faceOrder, 'face:none']),
          values: { face: { ...noFace, fill: this.pick(project.colourOrder) } },
        }
      case 'delete face':
        return { id: this.pick([...project.faceOrder, 'face:none']) }
      case 'draw picture':
        return { id: this.pick([...project.pictureOrder, 'picture:none']), fill: '#123456' }
      case 'delete style':
        return { id: this.pick(project.styleOrder.slice(3)) }
      case 'add typeface':
        return { id: this.id('typeface'), name: 'Night', asset: testTypefaces[0]!.asset }
      case 'add pictures':
        return {
          pictures: [plainPicture(this.id('picture')), plainPicture(this.id('picture'))],
          after: '',
          ...(project.pictureOrder.length % 4 === 2
            ? { pages: [{ id: this.id('page'), name: 'dusk', picture: project.pictureOrder[0] }], afterPage: '' }
            : {}),
        }
      case 'set picture': {
        const id = this.pick([...project.pictureOrder, 'picture:none'])
        return { id, values: this.random.below(2) ? { width: 20 + this.random.below(60) } : { way: this.pick(fitWays) } }
      }
      case 'set pictures': {
        const ids = [...new Set([this.pick(project.pictureOrder), this.pick(project.pictureOrder)])]
        return { ids: project.pictureOrder.length ? ids : ['picture:none'], values: { width: 20 + this.random.below(60) } }
      }
      case 'replace picture': {
        const { asset, format, file, fromWidth } = plainPicture('picture:x')
        return { id: this.pick([...project.pictureOrder, 'picture:none']), asset, format, file, fromWidth, fromHeight: 9 }
      }
      case 'delete picture':
        return { id: this.pick([...project.pictureOrder, 'picture:none']) }
      case 'delete typeface':
        return { id: this.pick([...project.typefaceOrder, 'typeface:none']) }
      case 'play pages':
        return { ids: [this.pick(pages)], showsForMs: 500, then: this.pick(pages) }
      case 'set page':
        return { id: this.pick(pages), values: { note: `p${this.random.below(9)}` } }
      case 'move page':
        return { id: this.pick(pages), after: null }
      case 'set start page':
      case 'delete page':
        return { id: this.pick(pages) }
      case 'add widgets': {
        const fresh = this.id('variable')
        return {
          page: this.pick(pages),
          after: '',
          variables: [{ id: fresh, name: 'level' }],
          widgets: [
            { id: this.id('widget'), kind, place: this.rect(), settings: this.settingsFor(project, kind) },
            { id: this.id('widget'), kind: 'number', place: this.rect(), settings: { variable: fresh } },
          ],
        }
      }
      case 'repeat widgets': {
        const place = this.rect()
        const original = project.widgets[widget]!
        return {
          add: {
            page: original.page,
            after: '',
            widgets: [
              {
                id: this.id('widget'),
                kind: original.kind,
                place,
                ...(this.random.below(2) ? { like: widget, settings: this.settingsFor(project, original.kind) } : {}),
              },
            ],
          },
          originals: [{ id: widget, settings: this.settingsFor(project, original.kind) }],
        }
      }
      case 'delete widgets':
        return { ids: [widget] }
      case 'place widgets':
        return { places: { [widget]: this.rect() } }
      case 'set widgets':
        return { ids: [widget], values: this.settingsFor(project, project.widgets[widget]!.kind) }
      case 'name widget':
        return { id: widget, name: `w${this.random.below(99)}` }
      case 'unlink widgets':
        return { ids: [widget] }
      case 'set as original': {
        const copies = widgets.filter((id) => project.widgets[id]!.like !== '')
        const id = copies.length ? this.pick(copies) : widget
        return { id, keys: [Object.keys(project.widgets[id]!.settings)[0] ?? 'text'] }
      }
      case 'set each widget':
        return {
          each: {
            [widget]: {
              place: { x: this.random.below(300) },
              values: this.settingsFor(project, project.widgets[widget]!.kind),
            },
          },
        }
      case 'lock widgets':
        return { ids: [widget], locked: this.random.below(2) === 1 }
      case 'order widgets':
        return { page: project.widgets[widget]!.page, ids: [widget], after: null }
      case 'add variable':
        return {
          id: this.id('variable'),
          name: this.pick(['wind', 'dew', 'site']),
          values: { holds: freshHolds(this.pick(holdsTypes)) },
        }
      case 'set variable':
        return {
          id: this.pick(variables),
          values: this.random.below(2) ? { travels: this.pick(travelKinds) } : { holds: freshHolds(this.pick(holdsTypes)) },
        }
      case 'spend addresses':
      case 'release all addresses':
        return {}
      case 'release address': {
        const keys = Object.keys(project.spent.addresses)
        return { key: keys.length ? this.pick(keys) : 'variable:x@1' }
      }
      case 'add command':
        return { id: this.id('command'), after: '', name: this.pick(['start', 'stop']), values: { fields: this.fields(project) } }
      case 'set command':
        return {
          id: this.pick([...project.commandOrder, 'command:none']),
          values: this.random.below(2)
            ? { fields: this.fields(project), frame: this.pick(['message', 'bare', 'layout']) }
            : {
                answer: 'command',
                answerBy: this.pick(['', ...project.commandOrder]),
                sender: this.pick(['host', 'panel', 'both']),
              },
        }
      case 'delete command':
        return { id: this.pick([...project.commandOrder, 'command:none']) }
      case 'move command':
        return { id: this.pick([...project.commandOrder, 'command:none']), after: null }
      case 'add exchange':
        return { id: this.id('exchange'), after: '', ...(this.random.below(2) ? { steps: this.steps() } : {}) }
      case 'move variable in the list':
        return { id: this.pick(variables), after: this.pick(variables) }
      default:
        return { id: this.pick(variables) }
    }
  }

  private fields = (project: Project) => [
    { field: 'constant', bytes: [1 + this.random.below(9), 2] },
    ...(this.random.below(2) ? [{ field: 'number', variable: this.variable(project), size: 2 }] : []),
    ...(this.random.below(2) ? [{ field: 'check', algorithm: 'sum-8' }] : []),
  ]

  private steps = () => [1, 2].map(() => ({ id: this.id('step'), kind: this.pick(stepKindNames()) }))

  private exchangeArgs(project: Project, name: string): Args | null {
    const exchange = this.pick(project.exchangeOrder)
    const steps = project.exchanges[exchange]!.stepOrder
    if (name === 'add step') return { exchange, id: this.id('step'), kind: this.pick(stepKindNames()), after: '' }
    if (name === 'add steps') return { exchange, after: this.pick(['', ...steps]), steps: this.steps() }
    if (name === 'set exchange') return { id: exchange, values: { seed: this.random.below(99) } }
    if (name === 'delete exchange') return { id: exchange }
    if (name === 'move exchange') return { id: exchange, after: null }
    if (!steps.length) return null
    const id = this.pick(steps)
    if (name === 'move step') return { exchange, id, after: null }
    if (name === 'delete step') return { exchange, id }
    const kind = project.exchanges[exchange]!.steps[id]!.kind
    return {
      exchange,
      id,
      values:
        kind === 'wait'
          ? { ms: 1 + this.random.below(50) }
          : 'variable' in project.exchanges[exchange]!.steps[id]!.settings
            ? { variable: this.variable(project) }
            : {},
    }
  }

  private hostArgs(project: Project, name: string): Args | null {
    const { host } = project
    if (name === 'set host') return { values: { synchronises: this.random.below(2) === 0 } }
    const part = this.pick(['quantities', 'reactions', 'outputs', 'sendings'] as const)
    const order = {
      quantities: host.quantityOrder,
      reactions: host.reactionOrder,
      outputs: host.outputOrder,
      sendings: host.sendingOrder,
    }[part]
    const kind = ({ quantities: 'quantity', reactions: 'reaction', outputs: 'output', sendings: 'sending' } as const)[part]
    if (name === 'add to host')
      return {
        part,
        id: this.id(kind),
        after: '',
        ...(part === 'quantities'
          ? { kind: this.pick(['walk', 'ramp', 'constant', 'approach', 'list']), settings: { variable: this.variable(project) } }
          : {}),
      }
    if (!order.length) return null
    const id = this.pick(order)
    if (name === 'delete from host') return { part, id }
    if (name === 'move in host') return { part, id, after: null }
    return part === 'quantities'
      ? { part, id, kind: this.pick(['walk', 'constant']), values: { everyMs: this.random.below(900) } }
      : part === 'sendings'
        ? { part, id, values: { command: this.pick(['', ...project.commandOrder]), variable: this.variable(project) } }
        : { part, id, values: { whenVariable: this.variable(project) } }
  }
}

/** A picture of a file that need not be there. */
const plainPicture = (id: string): NewPicture => ({
  ...pictureSettings.defaults,
  id: id as PictureId,
  name: 'moon',
  file: 'moon.png',
  format: 'png',
  asset: testTypefaces[0]!.asset,
  fromWidth: 48,
  fromHeight: 40,
})
