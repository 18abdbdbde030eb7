/** A field that has not come after so long is given up, ms: the station it stands in may not have it. */
const givenUpMs = 3000

/** Brings the field of that name into view and gives it the focus, as soon as its station shows it and no dialog is open. */
export function showField(label: string): void {
  const untilMs = performance.now() + givenUpMs
  const look = () => {
    const named = [...document.querySelectorAll<HTMLElement>('main [aria-label]')]
    const field = named.find((e) => e.getAttribute('aria-label') === label && e.checkVisibility())
    const isCovered = document.querySelector('[role="dialog"]') !== null
    if (field && !isCovered) {
      field.scrollIntoView({ block: 'center' })
      const target = field.matches('input, button, textarea, [tabindex]')
        ? field
        : field.querySelector<HTMLElement>('input, button')
      return (target ?? field).focus({ preventScroll: true })
    }
    if (performance.now() < untilMs) requestAnimationFrame(look)
  }
  requestAnimationFrame(look)
}
