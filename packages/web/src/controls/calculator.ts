const wanted = new Set<() => void>()

/** Whoever shows the calculator hears that one wants it. */
export function onCalculatorWanted(open: () => void): () => void {
  wanted.add(open)
  return () => void wanted.delete(open)
}

/** Opens the calculator for the field that has the focus, or for what is selected. */
export const openCalculator = (): void => wanted.forEach((open) => open())
