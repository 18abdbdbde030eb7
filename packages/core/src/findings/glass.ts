import { around, holdsRect, overlaps, type Rect } from '../base/index.ts'
import { lettersLacking, measureText } from '../artwork/index.ts'
import { fallbacksOf, fontOf, heldWith, refsOfWidget, type Widget } from '../project/index.ts'
import type { FontChoice } from '../settings/index.ts'
import { shownIn } from '../variables/index.ts'
import { boundKey, boundTo, rawOf, textMargin, widgetKind } from '../widgets/index.ts'
import { glassOf, holdsIn, tailOf, widgetsOf, type Check, type Finding, type View } from './finding.ts'

const atWidget = (
  widget: Widget,
  code: string,
  severity: Finding['severity'],
  facts: Finding['facts'],
  fix: Finding['fix'],
): Finding => ({ code, severity, station: 'Pages', at: widget.id, facts: { name: widget.name, ...facts }, fix })

/** A place no larger than a glass, and on it. */
function brought(place: Rect, glass: Rect): Rect {
  const [width, height] = [Math.min(place.width, glass.width), Math.min(place.height, glass.height)]
  const within = (at: number, size: number, room: number) => Math.min(Math.max(0, at), room - size)
  return { width, height, x: within(place.x, width, glass.width), y: within(place.y, height, glass.height) }
}

export const outsideGlass: Check = ({ project }) => {
  const glass = glassOf(project)
  return widgetsOf(project).flatMap((w) => {
    if (holdsRect(glass, w.place)) return []
    // Widgets held together keep their places to each other: each of them has the same fix.
    const held = heldWith(project, w.id).map((id) => project.widgets[id]!)
    const all = held.map(({ place }) => place).reduce(around)
    const together = held.length > 1 && all.width <= glass.width && all.height <= glass.height
    const whole = together ? all : w.place
    const inside = brought(whole, glass)
    const [dx, dy] = [inside.x - whole.x, inside.y - whole.y]
    const places = together
      ? Object.fromEntries(held.map(({ id, place }) => [id, { ...place, x: place.x + dx, y: place.y + dy }]))
      : { [w.id]: inside }
    return [atWidget(w, 'outside', 'error', {}, { label: 'Move onto the glass', edit: 'place widgets', args: { places } })]
  })
}

export const touchesOverlap: Check = ({ project }) =>
  Object.values(project.pages).flatMap((page) => {
    const touchable = page.widgets.map((id) => project.widgets[id]!).filter((w) => widgetKind(w.kind)?.touchable)
    return touchable.flatMap((upper, i) => {
      const lower = touchable.slice(0, i).find((other) => overlaps(other.place, upper.place))
      return lower ? [atWidget(upper, 'touch-overlap', 'warning', { other: lower.name }, null)] : []
    })
  })

/** Characters and pictures whose file is missing or unreadable. */
export const noLetters: Check = ({ project, chunkProblems }) =>
  chunkProblems.map(({ asset, problem }) => {
    const typeface = Object.values(project.typefaces).find((t) => t.asset === asset)
    const picture = Object.values(project.pictures).find((p) => p.asset === asset)
    const name = typeface ? `Text in the font “${typeface.name}”` : `The picture “${picture?.name ?? asset.slice(0, 12)}”`
    return {
      code: 'chunk',
      severity: 'error',
      station: picture ? 'Artwork' : 'Pages',
      at: typeface?.id ?? picture?.id ?? '',
      facts: { name, why: String(problem.facts['reason'] ?? problem.facts['what'] ?? 'its file is missing') },
      fix: null,
    }
  })

/** Findings of a kind about its settings. */
export const foundByKind: Check = ({ project }) => {
  const holdsOf = holdsIn(project)
  return widgetsOf(project).flatMap((w) =>
    (widgetKind(w.kind)?.findings?.(w.settings, holdsOf) ?? []).map(({ says, facts, mends }) => {
      const fix = mends && { label: mends.label, edit: 'set widgets', args: { ids: [w.id], values: mends.values } }
      return atWidget(w, 'kind', 'warning', { ...facts, says }, fix ?? null)
    }),
  )
}

/** A widget whose variable is essential to it, and that has none. */
export const withoutVariable: Check = ({ project }) =>
  widgetsOf(project).flatMap((w) => {
    const key = boundKey(w.kind)
    const isEssential = widgetKind(w.kind)?.settings.list.some((field) => field.key === key && field.essential)
    if (!isEssential || boundTo(w) !== '') return []
    const id = `variable:for-${tailOf(w.id)}`.slice(0, 48)
    const name =
      w.name
        .toLowerCase()
        .replaceAll(/[^a-z0-9]+/g, '_')
        .replace(/^[^a-z]+/, '')
        .slice(0, 24) || 'value'
    const args = { id, name, bind: { widget: w.id, key } }
    return [atWidget(w, 'no-variable', 'warning', {}, { label: 'Create a variable', edit: 'add variable', args })]
  })

/** A finger changes what the panel never tells its host. */
export const notReported: Check = ({ project }) =>
  widgetsOf(project).flatMap((w) => {
    const written = refsOfWidget(w).filter(({ use }) => use === 'writes')
    return [...new Set(written.map(({ to }) => to))].flatMap((to) => {
      const variable = project.variables[to as keyof typeof project.variables]
      if (variable?.travels !== 'host to panel') return []
      const args = { id: variable.id, values: { travels: 'both' } }
      return [
        atWidget(
          w,
          'not-reported',
          'warning',
          { variable: variable.name },
          { label: 'Set direction to both', edit: 'set variable', args },
        ),
      ]
    })
  })

/** Texts of a widget with its letters, measured where the typeface can be read. */
function measured(
  view: View,
  w: Widget,
): { text: string; font: FontChoice; lacking: string[]; width: (size: number) => number }[] {
  const { font: stored } = rawOf(w)
  const font = stored && fontOf(view.project, stored)
  const lettering = font && view.lettering(font)
  if (!font || !lettering) return []
  const { units } = view.project.conduct
  const asStored = holdsIn(view.project)
  const inSecond = (id: string) => {
    const holds = asStored(id)
    return holds && shownIn(holds, units).holds
  }
  const widest = widgetKind(w.kind)?.widest
  const texts = [asStored, ...(units.length ? [inSecond] : [])].flatMap((holds) => widest?.(w.settings, holds) ?? [])
  return [...new Set(texts)]
    .flatMap((text) => text.split('\n'))
    .map((text) => ({
      text,
      font,
      lacking: lettersLacking(lettering, text),
      width: (size) => measureText(lettering, size, text),
    }))
}

const smallestFont = 8

/** Whether a widget may be so large: on the glass, and over nothing that it does not lie over already. */
const hasRoom = ({ project }: View, w: Widget, wanted: Rect): boolean =>
  holdsRect(glassOf(project), wanted) &&
  project.pages[w.page]!.widgets.every((id) => {
    const { place } = project.widgets[id]!
    return id === w.id || !overlaps(place, wanted) || overlaps(place, w.place)
  })

/** How wide a widget must be to show a text in its font, px; null where it has none that can be read. */
export function widthFor(view: View, w: Widget, text: string): number | null {
  const { font: stored } = rawOf(w)
  const font = stored && fontOf(view.project, stored)
  const lettering = font && view.lettering(font)
  if (!font || !lettering) return null
  return Math.max(...text.split('\n').map((line) => measureText(lettering, font.size, line))) + 2 * textMargin
}

export const textTooWide: Check = (view) =>
  widgetsOf(view.project).flatMap((w) => {
    const room = w.place.width - (rawOf(w).align === 'centre' ? 0 : 2 * textMargin)
    const tooWide = measured(view, w).filter((m) => m.width(m.font.size) > room)
    const worst = tooWide.sort((a, b) => b.width(b.font.size) - a.width(a.font.size))[0]
    if (!worst) return []
    let size = worst.font.size
    while (size > smallestFont && worst.width(size) > room) size--
    const fits = worst.width(size) <= room
    const wider = { ...w.place, width: w.place.width + worst.width(worst.font.size) - room }
    const fix =
      fits && !hasRoom(view, w, wider)
        ? {
            label: `Font size ${size} px`,
            edit: 'set widgets',
            args: { ids: [w.id], values: { font: { ...worst.font, size } } },
          }
        : { label: `Widen to ${wider.width} px`, edit: 'place widgets', args: { places: { [w.id]: wider } } }
    return [
      atWidget(w, 'text-wide', 'warning', { text: worst.text.slice(0, 40), over: worst.width(worst.font.size) - room }, fix),
    ]
  })

/** Another typeface of the project that has letters which one lacks: it may stand in for it. */
function fallbackFix(view: View, font: FontChoice, letters: readonly string[]): Finding['fix'] {
  const { project } = view
  const first = project.typefaces[font.typeface as keyof typeof project.typefaces]
  if (!first) return null
  const last = fallbacksOf(project, first).at(-1) ?? first
  const known = new Set([first, ...fallbacksOf(project, first)])
  const other = project.typefaceOrder
    .map((id) => project.typefaces[id]!)
    .find((typeface) => {
      const lettering = known.has(typeface) ? null : view.lettering({ typeface: typeface.id, size: font.size })
      return lettering && !lettersLacking({ ...lettering, fallbacks: [] }, letters.join('')).length
    })
  return other
    ? { label: `Fallback font ${other.name}`, edit: 'set typeface', args: { id: last.id, values: { fallback: other.id } } }
    : null
}

export const glyphMissing: Check = (view) =>
  widgetsOf(view.project).flatMap((w) => {
    const texts = measured(view, w)
    const lacking = [...new Set(texts.flatMap((m) => m.lacking))]
    return lacking.length
      ? [atWidget(w, 'glyph', 'error', { letters: lacking.join(' ') }, fallbackFix(view, texts[0]!.font, lacking))]
      : []
  })
