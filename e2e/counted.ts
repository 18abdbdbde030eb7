import type { Project } from '@moth-lamp/core/project'
import { withSettings } from '@moth-lamp/core/project'
import type { Hand, ServerProcess } from './browser.ts'

/**
 * A job as someone does it, gestures counted: a click, a drag, or a group of keystrokes; fields reached by Tab in one go count once.
 */
export class Counted {
  gestures = 0
  constructor(
    readonly hand: Hand,
    readonly id: string,
    private server: ServerProcess,
  ) {}

  async saved(): Promise<Project> {
    await this.hand.sees('Saved · revision')
    return withSettings((await this.server.opened(this.id)).project)
  }

  /** A click on what is called so. */
  async click(name: string, role?: string): Promise<void> {
    this.pointed++
    this.gestures++
    await this.hand.click(name, role)
  }

  /** A click on words. */
  async clickWords(tag: string, words: string): Promise<void> {
    this.gestures++
    await this.hand.clickOn(tag, words)
  }

  /** A group of keystrokes: fields reached by Tab in one go are one. */
  async keys(...keys: string[]): Promise<void> {
    this.gestures++
    await this.hand.keys(...keys)
  }

  /** A click on the glass. */
  async press(x: number, y: number): Promise<void> {
    this.pointed++
    this.gestures++
    await this.hand.press(x, y)
  }

  async drag(from: [number, number], to: [number, number]): Promise<void> {
    this.gestures++
    await this.hand.drag(from, to)
  }

  /** How often the pointer was taken. */
  pointed = 0

  /** Tab (or Shift with it) until what has the focus is called so. */
  async tabTo(name: string, way: 'on' | 'back' = 'on'): Promise<void> {
    const here = () =>
      this.hand.page.evaluate(() => {
        const e = document.activeElement
        return e?.getAttribute('aria-label') ?? e?.textContent?.trim() ?? ''
      })
    this.gestures++
    for (let k = 0; k < 90 && (await here()) !== name; k++) {
      if (way === 'back') await this.hand.page.keyboard.down('Shift')
      await this.hand.page.keyboard.press('Tab')
      if (way === 'back') await this.hand.page.keyboard.up('Shift')
    }
    if ((await here()) !== name) throw new Error(`Tab does not come to ${name}`)
  }

  /** Opens the list that has the focus, and takes one of it by a part of its name. */
  async pick(label: string): Promise<void> {
    this.gestures++
    await this.hand.keys('Enter')
    await this.hand.find(label, 'option')
    // A list that is searched has its field, a short one is walked.
    const searched = await this.hand.page.evaluate(() =>
      document.activeElement?.getAttribute('aria-label')?.startsWith('Find in'),
    )
    if (searched) await this.hand.keys(`=${label}`, 'Enter')
    else {
      const chosen = () =>
        this.hand.page.evaluate(
          () => document.querySelector('[role="option"][data-combobox-selected]')?.textContent?.trim() ?? '',
        )
      for (let k = 0; k < 40 && (await chosen()) !== label; k++) await this.hand.keys('ArrowDown')
      await this.hand.keys('Enter')
    }
    await this.hand.page.waitForFunction(() => !document.querySelector('[role="option"]:not([aria-hidden])')?.checkVisibility())
  }

  /** A new action by keys alone. */
  async act(action: string, variable: string): Promise<void> {
    await this.tabTo('+ Action')
    await this.keys('Enter')
    await this.tabTo('Action 1: does')
    await this.pick(action)
    await this.tabTo('Action 1: variable')
    await this.pick(variable)
  }

  /** A new action that does an action on a variable: five clicks. */
  async acts(action: string, variable: string): Promise<void> {
    await this.click('+ Action', 'button')
    await this.choose('Action 1: does', action)
    await this.choose('Action 1: variable', variable)
  }

  /** Opens a list and takes one of it: two clicks. */
  async choose(name: string, label: string): Promise<void> {
    this.pointed += 2
    this.gestures += 2
    await this.hand.choose(name, label)
  }

  /** A click into a field, and what is typed there, taken with Enter. */
  async fill(name: string, text: string): Promise<void> {
    this.pointed++
    this.gestures += 2
    await this.hand.fill(name, text)
  }

  sees = (text: string) => this.hand.sees(text)
}

let count = 0
/** A project of its own, open at its empty page. */
export async function begin(hand: Hand, server: ServerProcess, width = 800, height = 480): Promise<Counted> {
  const { id } = await server.post<{ id: string }>('/projects', { name: `Job ${++count}`, width, height, diagonalInches: 7 })
  await hand.opens(`${server.url}/project/${id}/pages`)
  await hand.sees('Press A to add a widget, or drag a rectangle')
  await hand.sees('Saved · revision')
  return new Counted(hand, id, server)
}
