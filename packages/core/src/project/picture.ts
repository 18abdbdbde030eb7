import { ditherTexts, fitPlan, fitTexts, type Fitting, type FitPlan, type PictureFormat } from '../artwork/index.ts'
import { intersect, type PictureId, type Rect } from '../base/index.ts'
import { oneOf, type RawOf } from '../describe/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'

export const turnWords = ['as it is', 'to the right', 'upside down', 'to the left'] as const

/** How an original becomes what the panel shows: its size on the glass, and the steps that bring it there. */
export const pictureSettings = described({
  width: { label: 'Width', type: t.whole, default: 100, min: 1, max: 2048, unit: 'px', group: 'On the glass' },
  height: { label: 'Height', type: t.whole, default: 100, min: 1, max: 2048, unit: 'px', group: 'On the glass' },
  turn: {
    label: 'Rotation',
    type: oneOf({ 'as it is': '0°', 'to the right': '90°', 'upside down': '180°', 'to the left': '270°' }),
    default: 'as it is',
    group: 'Fitted',
  },
  trims: {
    label: 'Trim borders',
    type: t.yesNo,
    default: false,
    group: 'Fitted',
    hint: 'transparent, or of the corner colour',
  },
  way: { label: 'Scaling', type: oneOf(fitTexts), default: 'crop', group: 'Fitted' },
  partX: { label: 'Crop x', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part' },
  partY: { label: 'Crop y', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part' },
  partWidth: { label: 'Crop width', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part', zero: 'auto' },
  partHeight: { label: 'Crop height', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part', zero: 'auto' },
  cutX: { label: 'Region x', type: t.whole, default: 0, min: 0, max: 2047, unit: 'px', group: 'Cut' },
  cutY: { label: 'Region y', type: t.whole, default: 0, min: 0, max: 2047, unit: 'px', group: 'Cut' },
  cutWidth: { label: 'Region width', type: t.whole, default: 0, min: 0, max: 2048, unit: 'px', group: 'Cut', zero: 'all' },
  cutHeight: { label: 'Region height', type: t.whole, default: 0, min: 0, max: 2048, unit: 'px', group: 'Cut', zero: 'all' },
  kept: {
    label: 'Compression',
    type: oneOf({ plain: 'none', runs: 'RLE' }),
    default: 'plain',
    group: 'On the glass',
  },
  dither: { label: 'Dithering', type: oneOf(ditherTexts), default: 'none', group: 'Colours' },
  ground: { label: 'Background (matte)', type: t.colour, default: 'colour:ground', group: 'Colours' },
  keepsAlpha: { label: 'Keep alpha', type: t.yesNo, default: false, group: 'Colours' },
})
export type PictureSettings = RawOf<typeof pictureSettings.fields>

/** An original among the assets, and how it is brought to the glass. */
export interface PictureRecord extends PictureSettings {
  id: PictureId
  /** By which a host knows it, from 0. */
  number: number
  name: string
  /** The name of the file it came from. */
  file: string
  format: PictureFormat
  /** SHA-256 of the original. */
  asset: string
  /** Pixels of the original, as it is meant to be seen. */
  fromWidth: number
  fromHeight: number
}
/** A picture before the project has given it its number. */
export type NewPicture = Omit<PictureRecord, 'number'>

/** The steps of a recipe. */
export const fittingOf = (p: PictureSettings): Fitting => ({
  turn: ([0, 90, 180, 270] as const)[turnWords.indexOf(p.turn)]!,
  trims: p.trims,
  way: p.way,
  part: { x: p.partX, y: p.partY, width: p.partWidth, height: p.partHeight },
})

/** Region of the fitted picture, px of the glass; null: all of it. */
export function cutOf({ width, height, cutX, cutY, cutWidth, cutHeight }: PictureSettings): Rect | null {
  if (!cutWidth || !cutHeight) return null
  const cut = intersect({ x: cutX, y: cutY, width: cutWidth, height: cutHeight }, { x: 0, y: 0, width, height })
  return cut.width && cut.height ? cut : null
}

/** The size of what is shown: of the whole picture, or of what is cut out of it. */
export const shownSize = (p: PictureSettings): { width: number; height: number } => {
  const { width, height } = cutOf(p) ?? p
  return { width, height }
}

/** The size of the original after turning. What is trimmed is known only to who has its pixels. */
export const turnedSize = (p: PictureRecord): { width: number; height: number } =>
  p.turn === 'to the right' || p.turn === 'to the left'
    ? { width: p.fromHeight, height: p.fromWidth }
    : { width: p.fromWidth, height: p.fromHeight }

/** Part of a picture and its place, were nothing trimmed. */
export const planOf = (p: PictureRecord): FitPlan => fitPlan(turnedSize(p), p, fittingOf(p))

/** Bytes of a picture kept pixel by pixel: two a pixel, and one more where it keeps its transparency. */
export const pictureBytes = (p: PictureSettings): number => {
  const { width, height } = shownSize(p)
  return width * height * (p.keepsAlpha ? 3 : 2)
}
