import * as opentypeModule from 'opentype.js'
import type { Font } from 'opentype.js'
import { bad, good, type Result } from '../base/index.ts'

// The package's two builds differ in their default export.
const opentype = (opentypeModule as unknown as { default?: typeof opentypeModule }).default ?? opentypeModule

/** A font file understood: TrueType or OpenType outlines, plain or as WOFF. */
export interface Typeface {
  name: string
  font: Font
}

/** Problem: `typeface.unreadable` (reason). */
export function readTypeface(bytes: Uint8Array): Result<Typeface> {
  try {
    const font = opentype.parse(bytes.slice().buffer as ArrayBuffer)
    const names = font.names as unknown as Record<string, { en?: string } | undefined>
    return good({ name: names['fullName']?.en ?? 'typeface', font })
  } catch (error) {
    return bad('typeface.unreadable', { reason: error instanceof Error ? error.message : 'not a font file' })
  }
}
