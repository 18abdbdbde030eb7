import type { Smoothing } from '../raster/index.ts'

export type StyleId = `style:${string}`

/** A font of the project: letters by name, and how the panel keeps them. */
export interface TypeStyle {
  id: StyleId
  /** By which a host knows it, from 0. */
  number: number
  name: string
  /** '' for the first typeface of the project. */
  typeface: string
  /** Pixels to the em, 6 to 200. */
  size: number
  /** 1 to 1000; 0: as the file has it by itself. */
  weight: number
  /** Bits a pixel: 1, 2, 4 or 8. */
  bits: Smoothing
  /** Letters that it has besides those that something needs. */
  more: string
}

/** The styles every project has, by what they are for, with their sizes on a glass of 5.25 pixels to a millimetre. */
const roles = [
  { id: 'style:title', name: 'title', size: 20 },
  { id: 'style:value', name: 'value', size: 26 },
  { id: 'style:caption', name: 'caption', size: 16 },
  { id: 'style:button', name: 'button', size: 17 },
] as const

export type StyleRole = (typeof roles)[number]['name']
export const styleRoles: readonly StyleRole[] = roles.map(({ name }) => name)
export const isStyleRole = (id: string): boolean => roles.some((role) => role.id === id)

const usualPixelsPerMm = 5.25

/**
 * The four styles for a glass of so many pixels to a millimetre: their sizes are meant to be read from an arm's length away.
 * `faces`: which typeface each is set in; '' for the first of the project.
 */
export const startingStyles = (
  pixelsPerMm = usualPixelsPerMm,
  faces: { plain: string; bold: string; mono: string } = { plain: '', bold: '', mono: '' },
): TypeStyle[] =>
  roles.map(({ id, name, size }, k) => ({
    id,
    number: k + 1,
    name,
    typeface: name === 'value' ? faces.mono : name === 'caption' ? faces.plain : faces.bold,
    size: Math.min(200, Math.max(8, Math.round((size * pixelsPerMm) / usualPixelsPerMm))),
    weight: 0,
    bits: 8,
    more: '',
  }))
