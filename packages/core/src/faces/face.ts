import Joi from 'joi'
import { iconNames } from '../artwork/index.ts'
import { colourInstead, colourRefs, colourText, idOrNone, keyed, type ColourText, type Ref } from '../describe/index.ts'

/** A drawn look. Colours are as they are stored; an empty string is none. Sizes are pixels. */
export interface Face {
  shape: 'box' | 'ellipse'
  fill: ColourText
  /** With a fill: a gradient from `fill` to this. */
  fillTo: ColourText
  gradient: FadeWay
  /** Of a gradient at an angle: where it runs to, degrees, 0 up and 90 to the right. */
  angle: number
  /** Colours between its two ends, in order: where each stands, 1 to 99 %. */
  stops: readonly FaceStop[]
  border: ColourText
  /** With a border: a gradient from `border` to this, as that of the fill runs. */
  borderTo: ColourText
  borderWidth: number
  radius: number
  /** Radii of its four corners from the top left on, clockwise; none: `radius` for each. */
  corners: readonly number[]
  /** A shadow inside, from its upper edge down, px: it lies deeper than what is around it. */
  shade: number
  /** A groove and its bright edge every so many pixels down; 0: none. */
  ridges: number
  /** A face of the project that this one is; what else is said here does not count then. '' for none. */
  named: string
  /** Over its fill a picture of the project, or '' for none, and where in its place it stands. */
  picture: string
  pictureAt: PictureAt
  /** Of its picture so many px at each side keep their size while what is between is as large as the place; 0: all of it stays as it is. */
  pictureKeeps: number
  /** Over both an icon by its name, or '' for none; where `pictureAt` says. */
  icon: string
  iconColour: ColourText
  /** Its side, px; 0: two thirds of the shorter side of the place. */
  iconSize: number
}

export const fadeWays = ['down', 'right', 'at an angle', 'from the middle'] as const
export type FadeWay = (typeof fadeWays)[number]
/** Texts that are displayed for the ways of a gradient. */
export const fadeTexts: Readonly<Record<FadeWay, string>> = {
  down: 'vertical',
  right: 'horizontal',
  'at an angle': 'angle',
  'from the middle': 'radial',
}

export interface FaceStop {
  at: number
  colour: ColourText
}

/** Stops of a gradient besides its ends, at most. */
export const mostStops = 6

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
  angle: 180,
  stops: [],
  border: '',
  borderTo: '',
  borderWidth: 0,
  radius: 0,
  corners: [],
  shade: 0,
  ridges: 0,
  named: '',
  picture: '',
  pictureAt: 'middle',
  pictureKeeps: 0,
  icon: '',
  iconColour: '',
  iconSize: 0,
}

const maybeColour = Joi.alternatives(colourText, Joi.string().valid('')).messages({
  'alternatives.match': '{{#label}} must be a colour as #rrggbb, or empty',
})

/** The name of an icon there is, or '' for none. */
export const iconName = Joi.string()
  .valid('', ...iconNames)
  .messages({ 'any.only': '{{#label}} is no icon there is' })

export const faceSchema = keyed<Face>({
  shape: Joi.string().valid('box', 'ellipse').required(),
  fill: maybeColour.required(),
  fillTo: maybeColour.required(),
  gradient: Joi.string()
    .valid(...fadeWays)
    .required(),
  angle: Joi.number().integer().min(0).max(359).default(180),
  stops: Joi.array()
    .items(Joi.object({ at: Joi.number().integer().min(1).max(99).required(), colour: colourText.required() }))
    .max(mostStops)
    .default([]),
  border: maybeColour.required(),
  borderTo: maybeColour.default(''),
  borderWidth: Joi.number().integer().min(0).max(40).required(),
  radius: Joi.number().integer().min(0).max(400).required(),
  corners: Joi.alternatives(Joi.array().length(0), Joi.array().items(Joi.number().integer().min(0).max(400)).length(4)).default(
    [],
  ),
  shade: Joi.number().integer().min(0).max(40).default(0),
  ridges: Joi.number().integer().min(0).max(40).default(0),
  named: idOrNone('face').default(''),
  picture: idOrNone('picture').default(''),
  pictureAt: Joi.valid(...picturePlaces).default('middle'),
  pictureKeeps: Joi.number().integer().min(0).max(400).default(0),
  icon: iconName.default(''),
  iconColour: maybeColour.default(''),
  iconSize: Joi.number().integer().min(0).max(400).default(0),
})

/** The named colours of a face, and its picture. */
export function faceRefs(face: Face): readonly Ref[] {
  let refs = refsOfFaces.get(face)
  if (!refs) refsOfFaces.set(face, (refs = findFaceRefs(face)))
  return refs
}

/** Faces are never changed, and one object is the face of most widgets. */
const refsOfFaces = new WeakMap<Face, readonly Ref[]>()

const findFaceRefs = (face: Face): readonly Ref[] => [
  ...[face.fill, face.fillTo, face.border, face.borderTo, face.iconColour, ...face.stops.map(({ colour }) => colour)].flatMap(
    colourRefs,
  ),
  ...(face.named ? [{ to: face.named, use: 'names' as const }] : []),
  ...(face.picture ? [{ to: face.picture, use: 'names' as const }] : []),
]

/** The face with another colour in the place of a named one, or without a picture that is gone. */
export const faceInstead = (face: Face, gone: string, instead = ''): Face => ({
  ...face,
  fill: colourInstead(face.fill, gone, instead),
  fillTo: colourInstead(face.fillTo, gone, instead),
  stops: face.stops.map((stop) => ({ ...stop, colour: colourInstead(stop.colour, gone, instead) })),
  border: colourInstead(face.border, gone, instead),
  iconColour: colourInstead(face.iconColour, gone, instead),
  borderTo: colourInstead(face.borderTo, gone, instead),
  named: face.named === gone ? '' : face.named,
  picture: face.picture === gone ? instead : face.picture,
})

/** Settings with their faces changed, however deep they stand; whatever is no face stays as it is. */
export function mapFaces<T>(value: T, change: (face: Face) => Face): T {
  if (typeof value !== 'object' || value === null) return value
  if (Array.isArray(value)) return value.map((one: unknown) => mapFaces(one, change)) as T
  if ('shape' in value && 'fill' in value && 'borderWidth' in value) return change(value as unknown as Face) as T
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, mapFaces(one, change)])) as T
}
