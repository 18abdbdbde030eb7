import { operationTexts, type Direction } from '../frames/index.ts'
import { unsaidWords, type Book, type Happening, type Uncounted } from '../protocols/index.ts'

/** Something that is no frame, at its time, in words. */
export interface PanelEvent {
  id: number
  atUs: number
  /** Whose it is, by the way it speaks: the panel `to host`. */
  of: Direction
  what: Happening['what']
  /** `finger on “Open shutter” at 502, 215`. */
  words: string
}

/** Entries kept; the oldest go first. */
const most = 5_000

/** Events beside a conversation: touches, pages, beeps, the light, the host's pins. */
export class PanelEvents {
  private entries: PanelEvent[] = []
  private nextId = 1

  add(atUs: number, of: Direction, happening: Happening, book: Book): void {
    this.entries.push({ id: this.nextId++, atUs, of, what: happening.what, words: wordsOf(happening, book) })
    if (this.entries.length > most * 1.1) this.entries = this.entries.slice(-most)
  }

  get lastId(): number {
    return this.nextId - 1
  }

  /** Those after an id, oldest first. */
  since(id: number): PanelEvent[] {
    const first = this.entries[0]?.id ?? 0
    return this.entries.slice(Math.max(0, id + 1 - first))
  }
}

const uncounted: Record<Uncounted, string> = {
  'it woke the glass': 'ignored: wake-up touch',
  'touch is locked': 'ignored: touch disabled',
  'too soon': 'ignored: page just opened',
  'too short': 'ignored: contact too short',
  disabled: 'ignored: widget disabled',
}

function wordsOf(happening: Happening, { variables, widgets, pages, commands }: Book): string {
  const named = (list: Book['widgets'], number: number) => list.find((e) => e.number === number)?.name ?? String(number)
  switch (happening.what) {
    case 'touched': {
      const { widget, x, y } = happening
      return widget ? `press “${named(widgets, widget)}”` : `press at ${x}, ${y}, no widget`
    }
    case 'lifted':
      return happening.widget ? `release “${named(widgets, happening.widget)}”` : 'release'
    case 'not counted':
      return uncounted[happening.why]
    case 'page':
      return happening.page ? `page “${named(pages, happening.page)}” opens` : 'no page'
    case 'pop-up':
      return happening.page ? `pop-up “${named(pages, happening.page)}” opens` : 'the pop-up closes'
    case 'loop':
      return `page “${named(pages, happening.page)}” not opened: circular page links`
    case 'beep':
      return `beeps ${happening.ms} ms`
    case 'backlight':
      return `backlight ${happening.percent} %`
    case 'not sent': {
      const { message, problem } = happening
      const variable = variables.find(({ cell }) => cell.address === message.address)
      const name =
        message.operation === 'event'
          ? named(widgets, message.address)
          : message.operation === 'message'
            ? named(commands, message.address)
            : (variable?.name ?? '')
      return `not sent: ${operationTexts[message.operation]} ${name}. ${unsaidWords(problem)}`
    }
    case 'pin':
      return `pin ${happening.name} goes ${happening.level}: ${happening.on ? 'on' : 'off'}`
  }
}
