export type StyleId = `style:${string}`

/** Letters by name: which typeface, and how many pixels to the em. */
export interface TypeStyle {
  id: StyleId
  name: string
  /** '' for the first typeface of the project. */
  typeface: string
  size: number
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
  roles.map(({ id, name, size }) => ({
    id,
    name,
    typeface: name === 'value' ? faces.mono : name === 'caption' ? faces.plain : faces.bold,
    size: Math.min(200, Math.max(8, Math.round((size * pixelsPerMm) / usualPixelsPerMm))),
  }))
