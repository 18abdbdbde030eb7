import icons from './icons.json' with { type: 'json' }

/** On a grid of 256 × 256, y down: moves, lines, cubic curves and ends alone, absolute, as `scripts/icons.ts` writes them. */
const paths = icons as Record<string, string>

/** The icons there are, in the order of their names. */
export const iconNames: readonly string[] = Object.keys(paths)

/** The outline of an icon, as an SVG path of absolute M, L, C and Z; null where there is no such icon. */
export const iconPath = (name: string): string | null => (Object.hasOwn(paths, name) ? paths[name]! : null)

/** The grid that an outline of an icon is drawn on. */
export const iconGrid = 256
