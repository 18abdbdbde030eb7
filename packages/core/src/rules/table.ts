import type { DeedKind } from './deed.ts'
import { clearBits, setBits, toggleBits } from './deeds/bits.ts'
import { sendEvent } from './deeds/event.ts'
import { typeKey } from './deeds/key.ts'
import { closeLayer, openLayer } from './deeds/layer.ts'
import { goToPage } from './deeds/page.ts'
import { goBack, openStartPage } from './deeds/pages.ts'
import { beep, clear, lockTouch, sendValues } from './deeds/panel.ts'
import { set } from './deeds/set.ts'
import { step } from './deeds/step.ts'
import { toggle } from './deeds/toggle.ts'
import { whileHeld } from './deeds/while-held.ts'

const table = new Map<string, DeedKind>(
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
    openLayer,
    closeLayer,
    sendEvent,
    typeKey,
    sendValues,
    beep,
    lockTouch,
    clear,
  ].map((kind) => [kind.deed, kind]),
)

/** The deeds there are, in the order they are offered. */
export const deedKinds = (): DeedKind[] => [...table.values()]

/** The deed of that name, or undefined: a document of a later version may have others. */
export const deedKind = (deed: string): DeedKind | undefined => table.get(deed)

/** Adds a deed; a test registers one of its own and takes it out again with the function it gets back. */
export function registerDeed(kind: DeedKind): () => void {
  table.set(kind.deed, kind)
  return () => void table.delete(kind.deed)
}
