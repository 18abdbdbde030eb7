/** Windows as people have them, first that of the tests; the last two are 1280 × 800 at 150 % and 1920 × 1080 at 200 %. */
export const windows = [
  [1280, 800],
  [700, 800],
  [1024, 768],
  [1920, 1080],
  [853, 533],
  [960, 540],
] as const

/** Elements that can be neither seen nor scrolled to, and texts that are cut or too small. Runs in the page. */
export function badBoxes(): string[] {
  const wrong: string[] = []
  /** Nothing is written smaller, px; a little less is left for the scales of drawings. */
  const leastLetters = 10.9
  const scrolls = (e: Element, axis: 'X' | 'Y') => /auto|scroll/.test(getComputedStyle(e)[`overflow${axis}`])
  /** Whether something around it can be scrolled to it. */
  const isReached = (e: Element, axis: 'X' | 'Y') => {
    for (let up = e.parentElement; up; up = up.parentElement)
      if ((axis === 'X' ? up.scrollWidth > up.clientWidth : up.scrollHeight > up.clientHeight) && scrolls(up, axis)) return true
    return false
  }
  const nameOf = (e: Element) =>
    `${e.tagName.toLowerCase()} “${(e.getAttribute('aria-label') ?? e.textContent ?? '').trim().slice(0, 30)}”`
  if (document.documentElement.scrollWidth > innerWidth + 1)
    wrong.push(`the page is ${document.documentElement.scrollWidth} wide`)
  for (const e of document.querySelectorAll('button, a, input, textarea, h1, h2, [role="switch"]')) {
    const box = e.getBoundingClientRect()
    const style = getComputedStyle(e)
    const hidden = style.visibility === 'hidden' || style.clipPath !== 'none' || box.width < 2 || box.height < 2
    if (hidden || !e.checkVisibility() || e.closest('[aria-hidden="true"], details:not([open]) > :not(summary)')) continue
    if ((box.left < -1 || box.right > innerWidth + 1) && !isReached(e, 'X')) wrong.push(`${nameOf(e)} lies beside the window`)
    if ((box.top < -1 || box.bottom > innerHeight + 1) && !isReached(e, 'Y')) wrong.push(`${nameOf(e)} lies below the window`)
    const words = e.querySelector('.mantine-Button-label') ?? e
    const mayCut = style.textOverflow === 'ellipsis' || e.querySelector('.cut') || /combobox/.test(e.getAttribute('role') ?? '')
    if (e.tagName === 'BUTTON' && !mayCut && words.scrollWidth > words.clientWidth + 2)
      wrong.push(`${nameOf(e)} is cut: ${words.scrollWidth} in ${words.clientWidth}`)
  }
  for (const e of document.querySelectorAll<HTMLElement>('body *')) {
    const own = [...e.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent!.trim())
    const field = e instanceof HTMLInputElement && e.type === 'text'
    if (!(own || field) || !e.checkVisibility({ visibilityProperty: true }) || e.closest('[aria-hidden="true"], style, script'))
      continue
    const box = e.getBoundingClientRect()
    const style = getComputedStyle(e)
    if (box.width < 2 || style.clipPath !== 'none' || e.closest('.visually-hidden')) continue
    const scale = e instanceof SVGElement ? ((e as unknown as SVGGraphicsElement).getScreenCTM?.()?.a ?? 1) : 1
    const size = Number.parseFloat(style.fontSize) * scale
    if (size < leastLetters) wrong.push(`${nameOf(e)} is written in ${size.toFixed(1)} px`)
    // A number loses its digits without a sign of it; a text says by an ellipsis that it goes on.
    if (field && /^[-−+\d]/.test(e.value) && e.scrollWidth > e.clientWidth + 1)
      wrong.push(`${nameOf(e)} cuts “${e.value}”: ${e.scrollWidth} in ${e.clientWidth}`)
    const isCut = own && style.overflowX === 'hidden' && style.textOverflow !== 'ellipsis' && e.scrollWidth > e.clientWidth + 2
    if (isCut) wrong.push(`${nameOf(e)} is cut: ${e.scrollWidth} in ${e.clientWidth}`)
  }
  return [...new Set(wrong)]
}
