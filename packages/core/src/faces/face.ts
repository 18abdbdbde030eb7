import Joi from 'joi'
import { colourInstead, colourRefs, colourText, idOrNone, type ColourText, type Ref } from '../describe/index.ts'
import { inset, intersect, type Rect } from '../base/index.ts'
import {
  channelsOf,
  colourToRgb565,
  fillEllipse,
  fillRounded,
  gradientInk,
  type Ink,
  type Rgb565,
  type Surface,
} from '../raster/index.ts'

/** A drawn look. Colours are as they are stored; an empty string is none. Sizes are pixels. */
export interface Face {
  shape: 'box' | 'ellipse'
  fill: ColourText
  /** With a fill: a gradient from `fill` to this. */
  fillTo: ColourText
  gradient: 'down' | 'right'
  border: ColourText
  borderWidth: number
  radius: number
  /** Over its fill a picture of the project, or '' for none, and where in its place it stands. */
  picture: string
  pictureAt: PictureAt
}

export const picturePlaces = [
  'top left',
  'top',
  'top right',
  'left',
  'middle',
  'right',
  'bottom left',
  'bottom',
  'bottom right',
] as const
export type PictureAt = (typeof picturePlaces)[number]

export const noFace: Face = {
  shape: 'box',
  fill: '',
  fillTo: '',
  gradient: 'down',
  border: '',
  borderWidth: 0,
  radius: 0,
  picture: '',
  pictureAt: 'middle',
}

const maybeColour = Joi.alternatives(colourText, Joi.string().valid('')).messages({
  'alternatives.match': '{{#label}} must be a colour as #rrggbb, or empty',
})

export const faceSchema = Joi.object<Face>({
  shape: Joi.string().valid('box', 'ellipse').required(),
  fill: maybeColour.required(),
  fillTo: maybeColour.required(),
  gradient: Joi.string().valid('down', 'right').required(),
  border: maybeColour.required(),
  borderWidth: Joi.number().integer().min(0).max(40).required(),
  radius: Joi.number().integer().min(0).max(400).required(),
  picture: idOrNone('picture').default(''),
  pictureAt: Joi.valid(...picturePlaces).default('middle'),
})

type Channels = { red: number; green: number; blue: number }

/** A face as the panel paints it. `fill` and `border` are −1 for none. */
export interface CompiledFace {
  ellipse: boolean
  fill: Rgb565 | -1
  gradient: { from: Channels; to: Channels; direction: 'down' | 'right' } | null
  border: Rgb565 | -1
  borderWidth: number
  radius: number
  picture?: ShownPicture & { at: PictureAt }
}

/** A picture as a build names it. */
export interface ShownPicture {
  key: string
  width: number
  height: number
  /** It hides all that lies under it. */
  opaque: boolean
}

/** The named colours of a face, and its picture. */
export const faceRefs = (face: Face): Ref[] => [
  ...[face.fill, face.fillTo, face.border].flatMap(colourRefs),
  ...(face.picture ? [{ to: face.picture, use: 'names' as const }] : []),
]

/** The face with another colour in the place of a named one, or without a picture that is gone. */
export const faceInstead = (face: Face, gone: string, instead = ''): Face => ({
  ...face,
  fill: colourInstead(face.fill, gone, instead),
  fillTo: colourInstead(face.fillTo, gone, instead),
  border: colourInstead(face.border, gone, instead),
  picture: face.picture === gone ? instead : face.picture,
})

interface FaceContext {
  /** `#rrggbb` of a stored colour. */
  colour(stored: ColourText): string
  picture(id: string): ShownPicture | null
}

export function compileFace(face: Face, { colour, picture }: FaceContext): CompiledFace {
  const shown = face.picture ? picture(face.picture) : null
  const [fill, fillTo, border] = [
    face.fill && colour(face.fill),
    face.fillTo && colour(face.fillTo),
    face.border && colour(face.border),
  ]
  const from = channelsOf(fill)
  const to = channelsOf(fillTo)
  return {
    ellipse: face.shape === 'ellipse',
    fill: from ? colourToRgb565(fill) : -1,
    gradient: from && to ? { from, to, direction: face.gradient } : null,
    border: border && face.borderWidth ? colourToRgb565(border) : -1,
    borderWidth: face.border ? face.borderWidth : 0,
    radius: face.radius,
    ...(shown ? { picture: { ...shown, at: face.pictureAt } } : {}),
  }
}

/** Where a picture stands in a place. */
export function pictureRect(rect: Rect, { width, height, at }: { width: number; height: number; at: PictureAt }): Rect {
  const across = at.includes('left') ? 0 : at.includes('right') ? rect.width - width : Math.floor((rect.width - width) / 2)
  const down = at.startsWith('top') ? 0 : at.startsWith('bottom') ? rect.height - height : Math.floor((rect.height - height) / 2)
  return { x: rect.x + across, y: rect.y + down, width, height }
}

export function paintFace(surface: Surface, rect: Rect, face: CompiledFace): void {
  paintDrawn(surface, rect, face)
  const { picture } = face
  const bitmap = picture ? surface.bitmaps(picture.key) : null
  if (!picture || !bitmap) return
  // What is larger than its place is cut at its edges.
  const { x, y } = pictureRect(rect, { ...picture, width: bitmap.width, height: bitmap.height })
  surface.within(rect, () => surface.put(x, y, bitmap))
}

function paintDrawn(surface: Surface, rect: Rect, face: CompiledFace): void {
  const { border, borderWidth, radius } = face
  const inner = border < 0 ? rect : inset(rect, borderWidth)
  if (border >= 0 && face.fill < 0) return paintOutline(surface, rect, face)
  if (border >= 0) paintShape(surface, rect, face.ellipse, radius, border)
  if (face.fill < 0) return
  const ink = face.gradient ? gradientInk(rect, face.gradient.from, face.gradient.to, face.gradient.direction) : face.fill
  paintShape(surface, inner, face.ellipse, Math.max(0, radius - (border < 0 ? 0 : borderWidth)), ink)
}

const paintShape = (surface: Surface, rect: Rect, ellipse: boolean, radius: number, ink: Rgb565 | Ink): void =>
  ellipse ? fillEllipse(surface, rect, ink) : fillRounded(surface, rect, radius, ink)

/** A border around nothing: what was inside is kept and put back. */
function paintOutline(surface: Surface, rect: Rect, face: CompiledFace): void {
  const inner = inset(rect, face.borderWidth)
  const area = intersect(surface.clip, inner)
  const kept = surface.copyOf(area)
  paintShape(surface, rect, face.ellipse, face.radius, face.border)
  paintShape(
    surface,
    inner,
    face.ellipse,
    Math.max(0, face.radius - face.borderWidth),
    (x, y) => kept[(y - area.y) * area.width + x - area.x]!,
  )
}

/** Whether the face hides everything under `area` of a widget at `rect`. */
export function faceCovers(face: CompiledFace, rect: Rect, area: Rect): boolean {
  const holdsArea = (o: Rect) =>
    area.x >= o.x && area.y >= o.y && area.x + area.width <= o.x + o.width && area.y + area.height <= o.y + o.height
  if (face.picture?.opaque && holdsArea(intersect(rect, pictureRect(rect, face.picture)))) return true
  if (face.fill < 0 || face.ellipse) return false
  const r = Math.ceil(Math.min(face.radius, rect.width / 2, rect.height / 2))
  const wide = { x: rect.x, y: rect.y + r, width: rect.width, height: rect.height - 2 * r }
  const tall = { x: rect.x + r, y: rect.y, width: rect.width - 2 * r, height: rect.height }
  return holdsArea(wide) || holdsArea(tall)
}
