import type { Page } from 'puppeteer-core'
import { seededRandom } from '@moth-lamp/core/base'
import { Hand, patienceMs, type ServerProcess } from './browser.ts'

// Hands that do whatever can be done, in an order that chance gives: they click what is there, press keys, draw on the glass, type
// into every field that they come to, and leave it in every way. What they must never find: an error, a page that is gone, or
// something typed that is neither taken nor said.

const stations = ['panel', 'artwork', 'pages', 'variables', 'frames', 'bench', 'exchanges']

/** Something on the screen that a pointer reaches. */
interface Target {
  kind: 'control' | 'field' | 'glass'
  name: string
  x: number
  y: number
  width: number
  height: number
  /** The text in a field; '' for anything else. */
  value: string
}

const leavings = ['Enter', 'Tab', 'Escape', 'beside', 'control', 'station'] as const
export type Leaving = (typeof leavings)[number]

/** A text that was neither taken nor said, or was taken after Escape. */
export interface Lost {
  field: string
  station: string
  typed: string
  leaving: Leaving
}

/** Their doings so far. */
export interface Done {
  gestures: number
  typed: number
  /** Fields by name, and the ways in which each was left. */
  fields: Map<string, Set<Leaving>>
  lost: Lost[]
}

/** All that can be clicked, typed into or drawn on now, as far as it is not covered. Runs in the page. */
function reached(): Target[] {
  const out: Target[] = []
  const controls =
    'button, a[href], [role="tab"], [role="option"], [role="menuitem"], [role="radio"], [role="switch"], [role="slider"], input, textarea, canvas, summary, [data-step]'
  for (const e of document.querySelectorAll<HTMLElement>(controls)) {
    if (e.closest('[inert], [aria-hidden="true"]') || (e as HTMLButtonElement).disabled) continue
    const { x, y, width, height } = e.getBoundingClientRect()
    if (width < 3 || height < 3 || !e.checkVisibility({ visibilityProperty: true })) continue
    const [cx, cy] = [x + width / 2, y + height / 2]
    const top = document.elementFromPoint(cx, cy)
    if (!top || !(e === top || e.contains(top) || top.contains(e))) continue
    const isText =
      (e instanceof HTMLTextAreaElement || (e instanceof HTMLInputElement && ['text', 'search', ''].includes(e.type))) &&
      !e.readOnly &&
      e.getAttribute('aria-haspopup') !== 'listbox'
    const label = e.getAttribute('aria-label') ?? (e as HTMLInputElement).labels?.[0]?.textContent ?? e.textContent ?? ''
    out.push({
      kind: isText ? 'field' : e.tagName === 'CANVAS' ? 'glass' : 'control',
      name: label.replaceAll(/\s+/g, ' ').trim().slice(0, 60),
      x: cx,
      y: cy,
      width,
      height,
      value: isText ? (e as HTMLInputElement).value : '',
    })
  }
  return out
}

/** Fields of the window alone, and of forms before they are made: nothing of the document stands in them. */
const ofWindow =
  /find|explain|bytes|to send|value of the host|step|moment|command|go to|search|hand|of the splash|across|^down$|pitch|bits, in order|words, one a line|value step|new name|size of the panel/i
/** Words of what leads out of the project, or asks the system for a file. */
const leadsAway =
  /all projects|shelf|file|replace|\+ add\b|download|save a copy|export|open in|separate window|popped|tracing|delete (the )?project/i

export class RandomHands {
  readonly done: Done = { gestures: 0, typed: 0, fields: new Map(), lost: [] }
  private random: () => number
  private hand: Hand
  private n = 0

  constructor(
    private server: ServerProcess,
    private page: Page,
    private projects: readonly string[],
    seed: number,
  ) {
    const chance = seededRandom(seed)
    this.random = () => chance.next()
    this.hand = new Hand(page)
  }

  /** Has the page remember all that it has said from now on: a notice goes before long. */
  async begin(): Promise<void> {
    await this.page.evaluateOnNewDocument(() => {
      const said: string[] = []
      Object.assign(globalThis, { said })
      new MutationObserver(() => {
        for (const { textContent: text } of document.querySelectorAll('[role="alert"]'))
          if (text && said.at(-1) !== text) said.push(text)
      }).observe(document, { childList: true, subtree: true, characterData: true })
    })
    await this.come()
  }

  private below = (n: number): number => Math.floor(this.random() * n)
  private one = <T>(of: readonly T[]): T => of[this.below(of.length)]!

  private get project(): string {
    return /\/project\/([^/]+)/.exec(this.page.url())?.[1] ?? ''
  }

  private async come(): Promise<void> {
    await this.page.goto(`${this.server.url}/project/${this.one(this.projects)}/${this.one(stations)}`)
    await this.page.waitForSelector('nav[aria-label="Stations"]')
  }

  private look = async (): Promise<Target[]> => this.page.evaluate(reached)

  private async document(): Promise<string> {
    await this.hand.isSaved()
    return JSON.stringify((await this.server.opened(this.project)).project)
  }

  /** One gesture; where they are afterwards is theirs. */
  async gesture(): Promise<void> {
    if (!this.projects.includes(decodeURIComponent(this.project)) || this.random() < 0.01) await this.come()
    this.done.gestures++
    const targets = await this.look()
    const fields = targets.filter(({ kind, name }) => kind === 'field' && !ofWindow.test(name))
    const dice = this.random()
    if (fields.length && dice < 0.45) return this.type(this.one(fields))
    const others = targets.filter(({ name }) => !leadsAway.test(name))
    if (dice < 0.52) return this.keys()
    if (!others.length) return this.come()
    await this.use(this.one(others))
  }

  private async use({ kind, name, x, y, width, height }: Target): Promise<void> {
    const { mouse } = this.page
    if (kind === 'glass') {
      const at = (): [number, number] => [x + (this.random() - 0.5) * width * 0.98, y + (this.random() - 0.5) * height * 0.98]
      await mouse.move(...at())
      const button = this.random() < 0.1 ? 'right' : 'left'
      await mouse.down({ button })
      if (this.random() < 0.4) await mouse.move(...at(), { steps: 3 })
      await mouse.up({ button })
      return
    }
    if (kind === 'field' && ofWindow.test(name)) {
      await mouse.click(x, y)
      await this.page.keyboard.type(this.one(['7E 51 12', 'oak', '12', '-']))
      return
    }
    await mouse.click(x, y, { count: this.random() < 0.05 ? 2 : 1 })
  }

  private async keys(): Promise<void> {
    const { keyboard } = this.page
    const one = this.one(['Escape', 'Tab', 'ArrowDown', 'ArrowRight', 'Enter', 'a', 'n', 's', 'l', 'k', 'r', '/', '1', '3', '5', 'Delete', 'undo', 'redo', 'again', 'all']) // prettier-ignore
    const chord = { undo: 'z', redo: 'y', again: 'd', all: 'a' }[one]
    if (!chord) return void (await keyboard.press(one as never))
    await keyboard.down('Control')
    await keyboard.press(chord as never)
    await keyboard.up('Control')
  }

  /** Types into a field, leaves it, and sees what has become of it. */
  private async type(field: Target): Promise<void> {
    const { keyboard, mouse } = this.page
    const before = await this.document()
    const station = this.page.url().split('/').at(-1)!
    // The field may have gone while the document was saved.
    await mouse.click(field.x, field.y)
    const isThere = await this.page.evaluate(
      (name) => document.activeElement?.getAttribute('aria-label') === name || name === '',
      field.name,
    )
    if (!isThere || !field.name) return
    const now = Number.parseFloat(field.value.replaceAll(' ', ''))
    const typed = Number.isNaN(now) ? `zq${++this.n}` : String(Math.abs(Math.trunc(now)) + 1 + this.below(3))
    await keyboard.down('Control')
    await keyboard.press('a')
    await keyboard.up('Control')
    await keyboard.type(typed)
    // A station that was on its way may have come: then nothing was typed into it.
    const stands = await this.page.evaluate((text) => (document.activeElement as HTMLInputElement | null)?.value === text, typed)
    const number = (text: string) => Number(text.replace(/[^\d.x-].*$/i, ''))
    if (!stands || number(field.value) === Number(typed)) return
    const leaving = this.one(leavings)
    const ways = this.done.fields.get(field.name) ?? new Set()
    this.done.fields.set(field.name, ways.add(leaving))
    this.done.typed++
    await this.leave(leaving)
    const lost = await this.wasLost(field, typed, leaving, before)
    if (lost) this.done.lost.push({ field: field.name, station, typed, leaving })
  }

  private async leave(way: Leaving): Promise<void> {
    const { keyboard, mouse } = this.page
    if (way === 'Enter' || way === 'Tab' || way === 'Escape') return void (await keyboard.press(way))
    if (way === 'station') {
      const links = await this.page.$$('nav[aria-label="Stations"] a')
      return void (await this.one(links).click())
    }
    const targets = (await this.look()).filter(
      ({ kind, name }) => kind !== 'field' && !leadsAway.test(name) && !/undo/i.test(name),
    )
    if (way === 'control' && targets.length) {
      const { x, y } = this.one(targets)
      return void (await mouse.click(x, y))
    }
    await mouse.click(640, 60)
  }

  /** Whether what was typed is neither in the document, nor still to be seen, nor said; after Escape: whether it is in the document. */
  private async wasLost(field: Target, typed: string, leaving: Leaving, before: string): Promise<boolean> {
    if (leaving === 'Escape') {
      const after = await this.document()
      return after.includes(`"${typed}"`) && !before.includes(`"${typed}"`)
    }
    for (const untilMs = Date.now() + patienceMs; Date.now() < untilMs;) {
      if ((await this.isSeen(field, typed)) || (await this.document()) !== before) return false
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    return true
  }

  /** Whether it still stands in its field, or is spoken of. */
  private isSeen = (field: Target, typed: string): Promise<boolean> =>
    this.page.evaluate(
      (name, text) => {
        const fields = [...document.querySelectorAll<HTMLInputElement>('input, textarea')]
        const stands = fields.some((e) => e.getAttribute('aria-label') === name && e.value.includes(text))
        return stands || (globalThis as unknown as { said: string[] }).said.some((words) => words.includes(text))
      },
      field.name,
      typed,
    )
}
