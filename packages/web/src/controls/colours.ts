import { firstLook, colourOf, type Project } from '@moth-lamp/core/project'
import { colourParts, type ColourText } from '@moth-lamp/core/describe'
import { lookNames, type ColourId, type Look } from '@moth-lamp/core/palette'
import { expand565 } from '@moth-lamp/core/raster'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../session/context.tsx'

/** The look that the glass shows now: of a project with both, as the panel's own word says. */
export function useLook(): Look {
  const session = useSession()
  const project = useProject()
  const own = useStore(session.live, (live) => live.own['variable:own-look'])
  return project.looks === 'both' ? (lookNames[Number(own ?? 0)] ?? 'night') : firstLook(project)
}

/** `#rrggbb` of a stored colour in the look that is shown; '' for none. */
export function useColours(): (stored: ColourText) => string {
  const project = useProject()
  const look = useLook()
  return (stored) => colourOf(project, stored, look)
}

/** How a stored colour is written: the name it has in the project, or its digits; a tint says so. */
export function colourWords(project: Project, stored: ColourText): string {
  const { base, tint } = colourParts(stored)
  if (!base) return ''
  const name = base.startsWith('colour:') ? (project.colours[base as ColourId]?.name ?? base) : base
  return tint ? `${name} tint` : name
}

/** A colour as it is stored, from what was typed: a name, `#rrggbb`, four hex digits of 16 bits; null for anything else. */
export function readColour(project: Project, text: string): ColourText | null {
  const trimmed = text.trim().toLowerCase()
  const named = Object.values(project.colours).find(
    ({ name }) => trimmed === name.toLowerCase() || trimmed === `${name.toLowerCase()} tint`,
  )
  if (named) return `${named.id}${trimmed === named.name.toLowerCase() ? '' : ' tint'}`
  const long = /^#?([0-9a-f]{6})( tint)?$/.exec(trimmed)
  if (long) return `#${long[1]}${long[2] ?? ''}`
  const short = /^(?:#|0x)?([0-9a-f]{4})$/.exec(trimmed)
  return short ? hexOf565(parseInt(short[1]!, 16)) : null
}

const two = (n: number): string => n.toString(16).padStart(2, '0')
/** The colour a glass of 16 bits shows for a pixel. */
export function hexOf565(pixel: number): string {
  const { red, green, blue } = expand565(pixel)
  return `#${two(red)}${two(green)}${two(blue)}`
}
