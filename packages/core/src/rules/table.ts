import type { ActionKind } from './action.ts'
import { clearBits, setBits, toggleBits } from './actions/bits.ts'
import { sendCommand } from './actions/command.ts'
import { sendEvent } from './actions/event.ts'
import { typeKey } from './actions/key.ts'
import { closePopUp, openPopUp } from './actions/pop-up.ts'
import { goToPage } from './actions/page.ts'
import { goBack, openStartPage } from './actions/pages.ts'
import { beep, clear, lockTouch, sendValues } from './actions/panel.ts'
import { set } from './actions/set.ts'
import { step } from './actions/step.ts'
import { toggle } from './actions/toggle.ts'
import { whileHeld } from './actions/while-held.ts'

const table = new Map<string, ActionKind>(
  [
    set,
    step,
    toggle,
    whileHeld,
    setBits,
    clearBits,
    toggleBits,
    goToPage,
    goBack,
    openStartPage,
    openPopUp,
    closePopUp,
    sendEvent,
    sendCommand,
    typeKey,
    sendValues,
    beep,
    lockTouch,
    clear,
  ].map((kind) => [kind.action, kind]),
)

/** The actions there are, in the order they are offered. */
export const actionKinds = (): ActionKind[] => [...table.values()]

/** The action of that name, or undefined: a document of a later version may have others. */
export const actionKind = (action: string): ActionKind | undefined => table.get(action)

/** Adds an action; a test registers one of its own and takes it out again with the function it gets back. */
export function registerAction(kind: ActionKind): () => void {
  table.set(kind.action, kind)
  return () => void table.delete(kind.action)
}
