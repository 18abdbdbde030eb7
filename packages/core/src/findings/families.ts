import type { PictureId } from '../base/index.ts'
import type { Face } from '../faces/index.ts'
import { faceOf, shownSize, usersOf, type PictureRecord, type Project, type Widget } from '../project/index.ts'
import { widgetKind, type State } from '../widgets/index.ts'
import { widgetsOf, type Check, type Finding } from './finding.ts'

const at = (widget: Widget, code: string, facts: Finding['facts'], fix: Finding['fix'] = null): Finding => ({
  code,
  severity: code === 'pair-crossed' || code === 'states-alike' ? 'warning' : 'advice',
  station: 'Pages',
  at: widget.id,
  facts: { name: widget.name, ...facts },
  fix,
})

const pictureOf = (project: Project, face: Face | undefined): PictureRecord | undefined =>
  face && project.pictures[faceOf(project, face).picture as PictureId]

/** The states of a widget that show a picture, with what each is called, and whether it is stretched to its place. */
const shownStates = (project: Project, widget: Widget): { words: string; picture: PictureRecord; fills: boolean }[] =>
  (widgetKind(widget.kind)?.settings.list ?? [])
    .filter(({ type }) => type.name === 'states')
    .flatMap(({ key }) => widget.settings[key] as State[])
    .flatMap((state, k) => {
      const picture = pictureOf(project, state.face)
      const fills = faceOf(project, state.face).pictureKeeps > 0
      return picture ? [{ words: state.meaning || `state ${k + 1}`, picture, fills }] : []
    })

/** Two states of a widget that nobody can tell apart, and pictures of one family that jump when they change. */
export const statesOfPictures: Check = ({ project }) =>
  widgetsOf(project).flatMap((widget) => {
    const states = shownStates(project, widget)
    const found: Finding[] = []
    states.forEach(({ words, picture }, k) => {
      const before = states.slice(0, k).find((other) => other.picture === picture)
      if (before) found.push(at(widget, 'states-alike', { picture: picture.name, one: before.words, other: words }))
    })
    const asTheyAre = states.filter(({ fills }) => !fills)
    const sizes = [...new Set(asTheyAre.map(({ picture }) => Object.values(shownSize(picture)).join(' × ')))]
    if (sizes.length > 1) found.push(at(widget, 'states-sizes', { sizes: sizes.slice(0, 4).join(', ') }))
    return found
  })

/** Subject of a picture: its original, whichever part is shown. */
const originalOf = (picture: PictureRecord | undefined): string => picture?.asset ?? ''

/** Keys that have at rest what most keys of their kind have when they are pressed, and the other way round. */
export const crossedPairs: Check = ({ project }) => {
  const pairs = widgetsOf(project).flatMap((widget) => {
    const rest = pictureOf(project, widget.settings['face'] as Face | undefined)
    const pressed = pictureOf(project, widget.settings['pressedFace'] as Face | undefined)
    return rest && pressed && originalOf(rest) !== originalOf(pressed)
      ? [{ widget, key: `${originalOf(rest)} ${originalOf(pressed)}`, turned: `${originalOf(pressed)} ${originalOf(rest)}` }]
      : []
  })
  const count = (key: string) => pairs.filter((pair) => pair.key === key).length
  return pairs.flatMap(({ widget, key, turned }, k) => {
    const [same, others] = [count(key), count(turned)]
    const isOdd = others > same || (others === same && pairs.findIndex((pair) => pair.key === turned) < k && others > 0)
    if (!isOdd) return []
    const like = pairs.find((pair) => pair.key === turned)!.widget
    const { face, pressedFace } = widget.settings
    const args = { ids: [widget.id], values: { face: pressedFace, pressedFace: face } }
    return [at(widget, 'pair-crossed', { like: like.name }, { label: 'Swap', edit: 'set widgets', args })]
  })
}

/** A knob that stands half a pixel beside the middle of its track: one is odd, the other even. */
export const oddKnobs: Check = ({ project }) =>
  widgetsOf(project).flatMap((widget) => {
    const knob = pictureOf(project, widget.settings['face'] as Face | undefined)
    const track = pictureOf(project, widget.settings['track'] as Face | undefined)
    if (!knob || !track) return []
    const across = widget.place.width >= widget.place.height ? 'height' : 'width'
    const [one, other] = [shownSize(knob)[across], shownSize(track)[across]]
    return (one + other) % 2 ? [at(widget, 'knob-odd', { knob: one, track: other })] : []
  })

/** A sign with a margin of one colour around it, where it is the face of a widget. */
export const opaqueMargins: Check = ({ project, plan }) =>
  project.pictureOrder.flatMap((id) => {
    const picture = project.pictures[id]!
    const margin = plan?.pictures.find((part) => part.id === id)?.margin ?? 0
    const isFace = usersOf(project, id).some(({ from }) => from.startsWith('widget:'))
    if (margin < 2 || !isFace || picture.trims || picture.keepsAlpha) return []
    // Pixel for pixel the margin is room around the picture; fitted, it is in the picture.
    const isRoom = picture.way === 'exact' && (picture.width > picture.fromWidth || picture.height > picture.fromHeight)
    const values = isRoom ? { width: picture.width - 2 * margin, height: picture.height - 2 * margin } : { trims: true }
    const fix = { label: 'Trim', edit: 'set picture', args: { id, values } }
    return [
      { code: 'picture-margin', severity: 'advice', station: 'Artwork', at: id, facts: { name: picture.name, margin }, fix },
    ]
  })
