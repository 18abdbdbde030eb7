import { holdsPoint, holdsRect, overlaps } from '../base/index.ts'
import type { Face } from '../faces/index.ts'
import { contrastOf, lookNames, type Look } from '../palette/index.ts'
import {
  colourOf,
  faceOf,
  firstLook,
  fontOf,
  pixelsPerMm,
  type Page,
  type Project,
  type Widget,
  capitalOfEm as capital,
  leastCapitalMm,
  leastTargetMm,
} from '../project/index.ts'
import { rawOf, widgetKind } from '../widgets/index.ts'
import { glassOf, holdsIn, widgetsOf, type Check, type Finding } from './finding.ts'

const at = (widget: Widget, code: string, facts: Finding['facts'], fix: Finding['fix']): Finding => ({
  code,
  severity: 'warning',
  station: 'Pages',
  at: widget.id,
  facts: { name: widget.name, ...facts },
  fix,
})

/** Letters that are too small to be read at an arm's length. */
export const textTooSmall: Check = ({ project }) => {
  const px = pixelsPerMm(project.panel)
  const least = Math.min(200, Math.ceil((leastCapitalMm * px) / capital))
  return widgetsOf(project).flatMap((w) => {
    const { font } = rawOf(w)
    const now = font && fontOf(project, font)
    if (!now || now.size >= least) return []
    const fix = {
      label: `Font size ${least} px`,
      edit: 'set widgets',
      args: { ids: [w.id], values: { font: { ...now, size: least } } },
    }
    return [at(w, 'text-small', { mm: ((now.size * capital) / px).toFixed(1), least: leastCapitalMm }, fix)]
  })
}

/** Places for a finger that are smaller than a finger. */
export const targetTooSmall: Check = ({ project }) => {
  const { panel } = project
  const wanted = leastTargetMm[panel.finger]
  const least = Math.ceil(wanted * pixelsPerMm(panel))
  const holdsOf = holdsIn(project)
  return widgetsOf(project).flatMap((w) => {
    const kind = widgetKind(w.kind)
    if (!kind?.touchable) return []
    const found = kind.targets?.(w.place, w.settings, holdsOf) ?? []
    const targets = found.length ? found : [w.place]
    const narrow = Math.min(...targets.map((target) => target.width))
    const low = Math.min(...targets.map((target) => target.height))
    if (narrow >= least && low >= least) return []
    const width = Math.ceil(w.place.width * Math.max(1, least / narrow))
    const height = Math.ceil(w.place.height * Math.max(1, least / low))
    const place = {
      width,
      height,
      x: Math.round(w.place.x - (width - w.place.width) / 2),
      y: Math.round(w.place.y - (height - w.place.height) / 2),
    }
    const others = project.pages[w.page]!.widgets.map((id) => project.widgets[id]!).filter(
      (o) => o.id !== w.id && widgetKind(o.kind)?.touchable,
    )
    const hasRoom = holdsRect(glassOf(project), place) && !others.some((o) => overlaps(o.place, place))
    const fix = hasRoom
      ? { label: `Resize to ${width} × ${height} px`, edit: 'place widgets', args: { places: { [w.id]: place } } }
      : null
    const short = Math.min(narrow, low) / pixelsPerMm(panel)
    return [
      at(w, found.length ? 'part-small' : 'target-small', { mm: short.toFixed(1), least: wanted, finger: panel.finger }, fix),
    ]
  })
}

/** Least contrast of text that is read in passing (WCAG 2.2, large text). */
const leastContrast = 3

/** The colour behind the middle of a widget: its own face, or that of whatever lies below, or the page. */
function behind(project: Project, page: Page, w: Widget, look: Look): string {
  const fillOf = (one: Widget) => {
    const face = one.settings['face'] as Face | undefined
    return face && faceOf(project, face).fill
  }
  const own = fillOf(w)
  if (own) return colourOf(project, own, look)
  const [x, y] = [w.place.x + w.place.width / 2, w.place.y + w.place.height / 2]
  const below = page.widgets.slice(0, page.widgets.indexOf(w.id)).reverse()
  for (const id of below) {
    const other = project.widgets[id]!
    const fill = fillOf(other)
    if (fill && holdsPoint(other.place, x, y)) return colourOf(project, fill, look)
  }
  return colourOf(project, page.background.fill || '#000000', look)
}

/** Words that hardly differ from what is behind them, in a look that the project has. */
export const tooLittleContrast: Check = ({ project }) =>
  widgetsOf(project).flatMap((w) => {
    const ink = w.settings['colour']
    if (typeof ink !== 'string' || !ink || rawOf(w).font === undefined) return []
    const page = project.pages[w.page]!
    // The ground below a layer or pop-up is not known.
    if (page.kind !== 'page' && !(w.settings['face'] as Face | undefined)?.fill) return []
    const looks = project.looks === 'both' ? lookNames : [firstLook(project)]
    const worst = looks
      .map((look) => ({ look, ground: behind(project, page, w, look) }))
      .map(({ look, ground }) => ({ look, ground, contrast: contrastOf(colourOf(project, ink, look), ground) }))
      .sort((a, b) => a.contrast - b.contrast)[0]!
    if (worst.contrast >= leastContrast) return []
    const [best] = ['colour:ink', 'colour:ground']
      .map((colour) => ({
        colour,
        least: Math.min(...looks.map((look) => contrastOf(colourOf(project, colour, look), behind(project, page, w, look)))),
      }))
      .sort((a, b) => b.least - a.least)
    const fix =
      best!.least >= leastContrast
        ? {
            label: `Text colour ${best!.colour.slice('colour:'.length)}`,
            edit: 'set widgets',
            args: { ids: [w.id], values: { colour: best!.colour } },
          }
        : null
    return [at(w, 'contrast', { contrast: worst.contrast.toFixed(1), least: leastContrast, look: worst.look }, fix)]
  })

/** Words that are higher than what they stand in. */
export const textTooTall: Check = ({ project }) =>
  widgetsOf(project).flatMap((w) => {
    const { font } = rawOf(w)
    const now = font && fontOf(project, font)
    if (!now || now.size * capital <= w.place.height) return []
    const height = Math.ceil(now.size * 1.2)
    const place = { ...w.place, height, y: Math.round(w.place.y - (height - w.place.height) / 2) }
    const size = Math.max(6, Math.floor(w.place.height / 1.2))
    const fix = holdsRect(glassOf(project), place)
      ? { label: `Set height to ${height} px`, edit: 'place widgets', args: { places: { [w.id]: place } } }
      : { label: `Font size ${size} px`, edit: 'set widgets', args: { ids: [w.id], values: { font: { ...now, size } } } }
    return [at(w, 'text-tall', { size: now.size, height: w.place.height }, fix)]
  })
