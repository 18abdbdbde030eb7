import { sha256Hex } from '../base/index.ts'
import { makeSheet, readTypeface, type Typeface } from '../artwork/index.ts'
import type { Assets } from '../project/index.ts'
import type { Build } from './build.ts'

interface MadeSheet {
  header: Build['header']['sheets'][string]
  chunks: Record<string, Int32Array | Uint8Array>
}

/** Sheets of letters, made once for each font file and size. */
export class SheetMaker {
  private typefaces = new Map<string, Typeface | null>()
  private sheets = new Map<string, MadeSheet>()

  constructor(private assets: Assets) {}

  /** The key of a sheet, or null where the font file is not there or cannot be read. */
  key(asset: string, size: number): string | null {
    return this.typeface(asset) ? `${asset.slice(0, 16)}/${size}` : null
  }

  sheet(asset: string, size: number): MadeSheet | null {
    const key = this.key(asset, size)
    const typeface = this.typeface(asset)
    if (!key || !typeface) return null
    let made = this.sheets.get(key)
    if (!made) {
      const { ascent, descent, capHeight, metrics, coverage } = makeSheet(typeface, size)
      const metricsBytes = new Uint8Array(metrics.buffer)
      const names = { metrics: sha256Hex(metricsBytes), coverage: sha256Hex(coverage) }
      made = {
        header: { ascent, descent, capHeight, ...names },
        chunks: { [names.metrics]: metrics, [names.coverage]: coverage },
      }
      this.sheets.set(key, made)
    }
    return made
  }

  private typeface(asset: string): Typeface | null {
    let found = this.typefaces.get(asset)
    if (found === undefined) {
      const bytes = this.assets.get(asset)
      const read = bytes ? readTypeface(bytes) : null
      found = read?.ok ? read.value : null
      if (bytes) this.typefaces.set(asset, found)
    }
    return found
  }
}
