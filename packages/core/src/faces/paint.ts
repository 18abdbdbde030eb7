import { iconGrid, iconPath } from '../artwork/index.ts'
import type { ColourText } from '../describe/index.ts'
import { areaOf, inset, intersect, noRect, without, type Rect } from '../base/index.ts'
import {
  alongBearing,
  boxCovers,
  channelsOf,
  colourToRgb565,
  ellipseCovers,
  fadeInk,
  fillCornered,
  fillEllipse,
  fillPath,
  fillRounded,
  fromMiddle,
  gradientInk,
  type Bitmap,
  type Corners,
  type Ink,
  type Rgb565,
  type Stop,
  type Surface,
} from '../raster/index.ts'
import { noFace, type Face, type PictureAt } from './face.ts'

type Channels = { red: number; green: number; blue: number }

/** Colours along a way: at a bearing in degrees, or from the middle outwards. */
interface Fade {
  stops: readonly Stop[]
  bearing: number | null
}

/** A face as the panel paints it. `fill` and `border` are −1 for none. */
export interface CompiledFace {
  ellipse: boolean
  fill: Rgb565 | -1
  gradient: { from: Channels; to: Channels; direction: 'down' | 'right' } | null
  /** A gradient that is more than from one colour to another, down or to the right. */
  fade?: Fade
  borderFade?: Fade
  corners?: Corners
  shade?: number
  ridges?: number
  border: Rgb565 | -1
  borderWidth: number
  radius: number
  /** `keeps`: so many px at each side keep their size, and what is between is as large as the place. */
  picture?: ShownPicture & { at: PictureAt; keeps?: number; dark?: true }
  /** An outline, and how large it is; 0: two thirds of the shorter side. */
  icon?: { path: string; colour: Rgb565; size: number; at: PictureAt }
}

/** Whether it paints nothing at all. */
export const isEmptyFace = ({ fill, border, picture, icon }: CompiledFace): boolean => fill < 0 && border < 0 && !picture && !icon

/** A picture as a build names it. */
export interface ShownPicture {
  key: string
  width: number
  height: number
  /** It hides all that lies under it. */
  opaque: boolean
}

/** A face with its colours changed over: filled with `ink`, what was drawn over it in the colour it was filled with. */
export function inverseOf(face: CompiledFace, ink: Rgb565): CompiledFace {
  const { fade: _, picture: __, icon, ...rest } = face
  return {
    ...rest,
    fill: ink,
    gradient: null,
    ...(icon ? { icon: { ...icon, colour: Math.max(0, face.fill) } } : {}),
  }
}

/** The same with its picture darker: what it looks like while it is pressed, where nobody has said. */
export const darkerOf = (face: CompiledFace): CompiledFace =>
  face.picture ? { ...face, picture: { ...face.picture, dark: true } } : face

const darker = new WeakMap<Bitmap, Bitmap>()

/** A picture with five eighths of its light, made once. */
function darkened(bitmap: Bitmap): Bitmap {
  let made = darker.get(bitmap)
  if (!made) {
    const less = (channel: number) => (channel * 5) >> 3
    const pixels = bitmap.pixels.map((p) => (less(p >> 11) << 11) | (less((p >> 5) & 63) << 5) | less(p & 31))
    darker.set(bitmap, (made = { ...bitmap, pixels }))
  }
  return made
}

interface FaceContext {
  /** `#rrggbb` of a stored colour. */
  colour(stored: ColourText): string
  picture(id: string): ShownPicture | null
  /** A face of the project, or null. */
  face(id: string): unknown
}

export function compileFace(said: Face, context: FaceContext): CompiledFace {
  // Most widgets stand on nothing, and this has to be worked out only once.
  return said === noFace ? nothing : faceIn(said, context)
}

function faceIn(said: Face, context: FaceContext): CompiledFace {
  const { colour, picture } = context
  const face = { ...noFace, ...((said.named ? (context.face(said.named) as Face | null) : null) ?? said) }
  const shown = face.picture ? picture(face.picture) : null
  const path = face.icon ? iconPath(face.icon) : null
  const hexOf = (stored: ColourText) => stored && colour(stored)
  const [fill, fillTo, border, borderTo, icon] = [face.fill, face.fillTo, face.border, face.borderTo, face.iconColour].map(hexOf) as [string, string, string, string, string] // prettier-ignore
  const from = channelsOf(fill)
  const to = channelsOf(fillTo)
  const isPlain = (face.gradient === 'down' || face.gradient === 'right') && !face.stops.length
  const fade = from && to && !isPlain ? fadeOf(face, from, to, hexOf) : null
  const [edge, edgeTo] = [channelsOf(border), channelsOf(borderTo)]
  const corners = face.corners.length === 4 && face.shape === 'box' ? (face.corners as unknown as Corners) : null
  return {
    ellipse: face.shape === 'ellipse',
    fill: from ? colourToRgb565(fill) : -1,
    gradient: from && to && isPlain ? { from, to, direction: face.gradient as 'down' | 'right' } : null,
    ...(fade ? { fade } : {}),
    border: border && face.borderWidth ? colourToRgb565(border) : -1,
    ...(edge && edgeTo && face.borderWidth ? { borderFade: fadeOf({ ...face, stops: [] }, edge, edgeTo, hexOf) } : {}),
    borderWidth: face.border ? face.borderWidth : 0,
    radius: face.radius,
    ...(corners ? { corners } : {}),
    ...(face.shade ? { shade: face.shade } : {}),
    ...(face.ridges > 1 ? { ridges: face.ridges } : {}),
    ...(shown ? { picture: { ...shown, at: face.pictureAt, ...(face.pictureKeeps ? { keeps: face.pictureKeeps } : {}) } } : {}),
    ...(path !== null
      ? { icon: { path, colour: colourToRgb565(icon || '#ffffff'), size: face.iconSize, at: face.pictureAt } }
      : {}),
  }
}

const nothing = faceIn(noFace, { colour: (text) => text, face: () => null, picture: () => null })

function fadeOf({ gradient, angle, stops }: Face, from: Channels, to: Channels, hexOf: (stored: ColourText) => string): Fade {
  const between = stops.flatMap(({ at, colour }) => {
    const channels = channelsOf(hexOf(colour))
    return channels ? [{ at: at / 100, colour: channels }] : []
  })
  const bearing = { down: 180, right: 90, 'at an angle': angle, 'from the middle': null }[gradient]
  const inOrder = [...between].sort((a, b) => a.at - b.at)
  return { stops: [{ at: 0, colour: from }, ...inOrder, { at: 1, colour: to }], bearing }
}

/** Where a picture, or an icon, stands in a place; one whose sides keep their size fills it. */
export function pictureRect(
  rect: Rect,
  { width, height, at, keeps }: { width: number; height: number; at: PictureAt; keeps?: number },
): Rect {
  if (keeps) return rect
  const across = at.includes('left') ? 0 : at.includes('right') ? rect.width - width : Math.floor((rect.width - width) / 2)
  const down = at.startsWith('top') ? 0 : at.startsWith('bottom') ? rect.height - height : Math.floor((rect.height - height) / 2)
  return { x: rect.x + across, y: rect.y + down, width, height }
}

export function paintFace(surface: Surface, rect: Rect, face: CompiledFace): void {
  paintDrawn(surface, rect, face)
  const { picture, icon } = face
  const found = picture ? surface.bitmaps(picture.key) : null
  const bitmap = found && picture?.dark ? darkened(found) : found
  // A picture larger than its place is cut at the edges.
  if (picture && bitmap)
    surface.within(rect, () => {
      if (picture.keeps) return putStretched(surface, rect, bitmap, picture.keeps)
      const { x, y } = pictureRect(rect, { ...picture, width: bitmap.width, height: bitmap.height })
      surface.put(x, y, bitmap)
    })
  if (icon) {
    const side = icon.size || Math.round((Math.min(rect.width, rect.height) * 2) / 3)
    const place = pictureRect(rect, { width: side, height: side, at: icon.at })
    surface.within(rect, () => fillPath(surface, place, icon.path, iconGrid, icon.colour))
  }
}

/** A picture as large as a place: `keeps` px at each side as they are, what is between by its nearest pixel. */
function putStretched(surface: Surface, rect: Rect, { width, height, pixels, alpha }: Bitmap, keeps: number): void {
  const area = intersect(surface.clip, rect)
  const columns = Array.from({ length: area.width }, (_, k) => nearest(area.x - rect.x + k, rect.width, width, keeps))
  for (let y = area.y; y < area.y + area.height; y++) {
    const row = nearest(y - rect.y, rect.height, height, keeps) * width
    for (let k = 0; k < area.width; k++) {
      const from = row + columns[k]!
      surface.dab(area.x + k, y, pixels[from]!, alpha ? alpha[from]! : 255)
    }
  }
}

/** Of `from` pixels the one that stands at `at` when they are stretched to `to` and `keeps` at both ends are not. */
function nearest(at: number, to: number, from: number, keeps: number): number {
  const kept = Math.min(keeps, Math.floor(from / 2), Math.floor(to / 2))
  if (at < kept) return at
  if (at >= to - kept) return from - (to - at)
  const inner = from - 2 * kept
  return inner > 0 ? kept + Math.floor(((at - kept) * inner) / (to - 2 * kept)) : kept - 1
}

function paintDrawn(surface: Surface, rect: Rect, face: CompiledFace): void {
  const { border, borderWidth, radius } = face
  const inner = border < 0 ? rect : inset(rect, borderWidth)
  if (border >= 0 && face.fill < 0) return paintOutline(surface, rect, face)
  if (face.fill < 0) return
  const less = border < 0 ? 0 : borderWidth
  if (border >= 0) {
    // Where the fill hides it again it is not painted.
    const hidden = solidShape(smaller(face, less), Math.max(0, radius - less), inner)
    for (const part of without(rect, hidden))
      surface.within(part, () => paintShape(surface, rect, face, radius, borderInk(rect, face)))
  }
  const ink = face.fade
    ? inkOf(rect, face.fade)
    : face.gradient
      ? gradientInk(rect, face.gradient.from, face.gradient.to, face.gradient.direction)
      : face.fill
  paintShape(surface, inner, smaller(face, less), Math.max(0, radius - less), ink)
  if (face.shade || face.ridges) paintRelief(surface, inner, smaller(face, less), Math.max(0, radius - less))
}

const inkOf = (rect: Rect, { stops, bearing }: Fade): Ink =>
  fadeInk(stops, bearing === null ? fromMiddle(rect) : alongBearing(rect, bearing))

const borderInk = (rect: Rect, face: CompiledFace): Rgb565 | Ink =>
  face.borderFade ? inkOf(rect, face.borderFade) : (face.border as Rgb565)

/** The face inside its border: corners are rounder by its width. */
const smaller = (face: CompiledFace, by: number): CompiledFace =>
  face.corners && by ? { ...face, corners: face.corners.map((r) => Math.max(0, r - by)) as unknown as Corners } : face

function paintShape(surface: Surface, rect: Rect, { ellipse, corners }: CompiledFace, radius: number, ink: Rgb565 | Ink): void {
  if (ellipse) fillEllipse(surface, rect, ink)
  else if (corners) fillCornered(surface, rect, corners, ink)
  else fillRounded(surface, rect, radius, ink)
}

/** How dark a shadow is at its edge, a groove, and how light the edge of one, of 255. */
const relief = { shadow: 120, groove: 60, edge: 36 }

/** A shadow under the upper edge, and grooves, on what is painted already; only where the shape is. */
function paintRelief(
  surface: Surface,
  rect: Rect,
  { ellipse, corners, shade = 0, ridges = 0 }: CompiledFace,
  radius: number,
): void {
  const covers = ellipse ? ellipseCovers(rect) : boxCovers(rect, corners ?? [radius, radius, radius, radius])
  const area = intersect(surface.clip, rect)
  const tint = (x: number, y: number, colour: Rgb565, strength: number) => {
    const covered = covers(x, y)
    if (covered) surface.dab(x, y, colour, Math.floor((strength * covered) / 255))
  }
  for (let x = area.x; x < area.x + area.width; x++) {
    // The edge above this column: the shadow follows it.
    let top = rect.y
    while (shade && top < rect.y + rect.height && covers(x, top) < 128) top++
    for (let y = Math.max(area.y, top); y < Math.min(area.y + area.height, top + shade); y++)
      tint(x, y, 0, Math.floor((relief.shadow * (shade - (y - top))) / shade))
    if (!ridges) continue
    for (let y = area.y; y < area.y + area.height; y++) {
      const step = (y - rect.y) % ridges
      if (step === ridges - 1) tint(x, y, 0, relief.groove)
      else if (step === 0 && y > rect.y) tint(x, y, 0xffff, relief.edge)
    }
  }
}

/** A border around nothing: what was inside is kept and put back. */
function paintOutline(surface: Surface, rect: Rect, face: CompiledFace): void {
  const inner = inset(rect, face.borderWidth)
  const area = intersect(surface.clip, inner)
  const kept = surface.copyOf(area)
  paintShape(surface, rect, face, face.radius, borderInk(rect, face))
  paintShape(
    surface,
    inner,
    smaller(face, face.borderWidth),
    Math.max(0, face.radius - face.borderWidth),
    (x, y) => kept[(y - area.y) * area.width + x - area.x]!,
  )
}

/** The largest part of a place, as a rectangle, of which a face hides all that lies under it; an empty one where there is none. */
export function solidOf(face: CompiledFace, rect: Rect): Rect {
  const picture = face.picture?.opaque ? intersect(rect, pictureRect(rect, face.picture)) : noRect
  const drawn = face.fill < 0 ? noRect : solidShape(face, face.radius, rect)
  return areaOf(drawn) > areaOf(picture) ? drawn : picture
}

/** The largest rectangle that a filled shape covers whole. */
function solidShape({ ellipse, corners }: CompiledFace, radius: number, rect: Rect): Rect {
  if (ellipse) {
    // The rectangle in it whose corners are on it, less what of a pixel they may miss: √½ of each side.
    const [across, down] = [rect.width, rect.height].map((side) => Math.ceil((side * (1 - Math.SQRT1_2)) / 2) + 1) as [number, number] // prettier-ignore
    return { x: rect.x + across, y: rect.y + down, width: rect.width - 2 * across, height: rect.height - 2 * down }
  }
  const most = corners ? Math.max(...corners) : radius
  const r = Math.ceil(Math.min(most, rect.width / 2, rect.height / 2))
  const wide = { x: rect.x, y: rect.y + r, width: rect.width, height: rect.height - 2 * r }
  const tall = { x: rect.x + r, y: rect.y, width: rect.width - 2 * r, height: rect.height }
  return areaOf(wide) > areaOf(tall) ? wide : tall
}
