import type { BuildHeader } from '../compile/index.ts'
import type { Effect } from '../rules/index.ts'
import type { Fingers } from './fingers.ts'
import type { Light } from './light.ts'
import type { Memory } from './memory.ts'
import type { Pages } from './pages.ts'
import type { PopUps } from './pop-ups.ts'
import type { States } from './states.ts'

/** The rooms of the panel that effects change besides memory. */
export interface EffectRooms {
  header(): BuildHeader
  memory(): Memory
  pages(): Pages
  popUps(): PopUps
  light(): Light
  fingers(): Fingers
  states(): States
  /** Tells the host the values that travel as one set; all of the page, or those that were changed. */
  sendValues(all: boolean): void
}

/** Effects that `Doer` does itself, or has a word of its own for. */
type Elsewhere = 'write' | 'bits' | 'page' | 'pop-up' | 'key' | 'event' | 'command'
type Other = Exclude<Effect, { do: Elsewhere }>
type Does = { [D in Other['do']]: (rooms: EffectRooms, effect: Extract<Other, { do: D }>) => void }

const does: Does = {
  open: (rooms, { number }) => {
    const page = rooms.header().pages.find((p) => p.number === number)
    if (page?.kind === 'page') rooms.pages().goTo(page.number)
    else if (page) rooms.popUps().show(page.number, 0, 0)
  },
  back: (rooms) => rooms.pages().goBack(),
  'start page': (rooms) => rooms.pages().goTo(rooms.header().startPage),
  beep: (rooms, { ms }) => rooms.memory().setOwn('beep', ms),
  wake: (rooms) => rooms.light().wake(),
  lock: (rooms, { ms }) => rooms.fingers().lock(ms),
  'send values': (rooms, { all }) => rooms.sendValues(all),
  clear: (rooms, { widget }) => rooms.states().clear(widget),
}

/** Does an effect that changes a room of the panel: a page, its light, a lock. */
export function doOther(rooms: EffectRooms, effect: Other): void {
  ;(does[effect.do] as (rooms: EffectRooms, effect: Other) => void)(rooms, effect)
}

export type { Other as OtherEffect }
