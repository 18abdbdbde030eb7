/**
 * Text that is typed and not taken, by the fields it is typed into. The law: it is taken for the record it was typed for when the
 * caret leaves it, whatever the reason. A field takes it when it loses the focus; but by then the field may show another record, or
 * be gone. So a part that is about to change that has the text taken first (`takeDrafts`): a pointer that goes down outside of the
 * field, another selection, another station, a window that is left.
 */
export interface Draft {
  /** Whether something lies in the field, so that a pointer there leaves nothing. */
  holds(target: Node): boolean
  /**
   * Takes what is typed; with `leaving` the field is about to show something else or nothing: what cannot be taken is let go, and
   * said.
   */
  take(leaving: boolean): void
}

const drafts = new Set<Draft>()
let lost: (label: string, text: string, why: string) => void = () => undefined

const onPointer = (e: Event): void => {
  for (const draft of [...drafts]) if (!(e.target instanceof Node && draft.holds(e.target))) draft.take(false)
}

/** From now on this field has something typed that is not taken; the result ends that. */
export function holdDraft(draft: Draft): () => void {
  drafts.add(draft)
  // Before anything that the pointer does: it may select another record.
  if (drafts.size === 1) globalThis.addEventListener?.('pointerdown', onPointer, { capture: true })
  return () => {
    drafts.delete(draft)
    if (!drafts.size) globalThis.removeEventListener?.('pointerdown', onPointer, { capture: true })
  }
}

/** Takes all that is typed anywhere. */
export const takeDrafts = (leaving = true): void => [...drafts].forEach((draft) => draft.take(leaving))

/** Says that what was typed could not be taken, where the field cannot show it any more. */
export const sayLost = (label: string, text: string, why: string): void => lost(label, text, why)

/** From now on losses are said this way; the result ends that, unless another way has come since. */
export function onLost(say: typeof lost): () => void {
  lost = say
  return () => void (lost = lost === say ? () => undefined : lost)
}
