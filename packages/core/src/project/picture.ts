import { dithers, fitPlan, fitWays, type Fitting, type FitPlan, type PictureFormat } from '../artwork/index.ts'
import { intersect, type PictureId, type Rect } from '../base/index.ts'
import { oneOf, type RawOf } from '../describe/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'

export const turnWords = ['as it is', 'to the right', 'upside down', 'to the left'] as const

/** How an original becomes what the panel shows: its size on the glass, and the steps that bring it there. */
export const pictureSettings = described({
  width: { label: 'Width', type: t.whole, default: 100, min: 1, max: 2048, unit: 'px', group: 'On the glass' },
  height: { label: 'Height', type: t.whole, default: 100, min: 1, max: 2048, unit: 'px', group: 'On the glass' },
  turn: { label: 'Turned', type: oneOf(...turnWords), default: 'as it is', group: 'Fitted' },
  trims: {
    label: 'Without its margins',
    type: t.yesNo,
    default: false,
    group: 'Fitted',
    hint: 'of nothing, or of the colour of its corner',
  },
  way: { label: 'Fitted', type: oneOf(...fitWays), default: 'crop', group: 'Fitted' },
  partX: { label: 'From the left', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part' },
  partY: { label: 'From the top', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part' },
  partWidth: { label: 'Part wide', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part', zero: 'as fits' },
  partHeight: { label: 'Part high', type: t.whole, default: 0, min: 0, max: 16_384, unit: 'px', group: 'Part', zero: 'as fits' },
  cutX: { label: 'Cut from the left', type: t.whole, default: 0, min: 0, max: 2047, unit: 'px', group: 'Cut' },
  cutY: { label: 'Cut from the top', type: t.whole, default: 0, min: 0, max: 2047, unit: 'px', group: 'Cut' },
  cutWidth: { label: 'Cut wide', type: t.whole, default: 0, min: 0, max: 2048, unit: 'px', group: 'Cut', zero: 'all of it' },
  cutHeight: { label: 'Cut high', type: t.whole, default: 0, min: 0, max: 2048, unit: 'px', group: 'Cut', zero: 'all of it' },
  kept: {
    label: 'Kept',
    type: { ...oneOf('plain', 'runs'), labels: { plain: 'pixel by pixel', runs: 'in runs of one colour' } },
    default: 'plain',
    group: 'On the glass',
  },
  dither: { label: 'Dither', type: oneOf(...dithers), default: 'none', group: 'Colours' },
  ground: { label: 'Under what is transparent', type: t.colour, default: 'colour:ground', group: 'Colours' },
  keepsAlpha: { label: 'Keeps its transparency', type: t.yesNo, default: false, group: 'Colours' },
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

/** What is cut out of the fitted picture, px of the glass; null: all of it. */
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

/** What of a picture goes where, were nothing trimmed. */
export const planOf = (p: PictureRecord): FitPlan => fitPlan(turnedSize(p), p, fittingOf(p))

/** Bytes of a picture kept pixel by pixel: two a pixel, and one more where it keeps its transparency. */
export const pictureBytes = (p: PictureSettings): number => {
  const { width, height } = shownSize(p)
  return width * height * (p.keepsAlpha ? 3 : 2)
}
