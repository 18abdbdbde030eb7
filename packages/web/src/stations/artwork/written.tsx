import { useEffect, useMemo, useRef } from 'react'
import { sortedLetters, type LetterChunk, type LetterSpec } from '@moth-lamp/core/artwork'
import { colourOf, type Project } from '@moth-lamp/core/project'
import { colourToRgb565, drawText, Surface, textWidth } from '@moth-lamp/core/raster'
import { useProject } from '../../session/context.tsx'
import { imageOf, useChunk } from '../../parts/pixels.tsx'
import styles from './artwork.module.css'

interface Props {
  spec: LetterSpec
  /** The letters that are made; those of the text are among them. */
  letters: string
  text: string
  label: string
  /** Pixels of the glass that are shown at most. */
  width?: number
  /** Pixels of the screen to one of the glass. */
  scale?: number
}

/** Letters by the chunk they are made as. */
export const sheetOfChunk = ({ header, parts }: LetterChunk) => ({ ...header, ...parts })

const margin = 4

/** A line as the panel writes it, pixel by pixel, in the ink of the project on its ground. */
export function Written({ spec, letters, text, label, width = 600, scale = 1 }: Props) {
  const project = useProject()
  const canvas = useRef<HTMLCanvasElement>(null)
  const chunk = useChunk({ make: 'letters', ...spec, letters: sortedLetters(letters + text) })
  const image = useMemo(() => chunk && drawn(project, chunk, text, width), [project, chunk, text, width])
  const size = image ?? { width: Math.min(width, 120), height: Math.ceil(spec.px * 1.3) }
  useEffect(() => {
    if (image) canvas.current!.getContext('2d')!.putImageData(image, 0, 0)
  }, [image])
  return (
    <canvas
      ref={canvas}
      width={size.width}
      height={size.height}
      role="img"
      aria-label={label}
      data-made={chunk ? '' : undefined}
      className={styles.written}
      style={{ width: size.width * scale, height: size.height * scale }}
    />
  )
}

function drawn(project: Project, chunk: LetterChunk, text: string, most: number): ImageData {
  const sheet = sheetOfChunk(chunk)
  const width = Math.max(8, Math.min(most, textWidth(sheet, text) + 2 * margin))
  const height = Math.max(8, sheet.ascent + sheet.descent + 2)
  const surface = new Surface(width, height)
  surface.fill({ x: 0, y: 0, width, height }, colourToRgb565(colourOf(project, 'colour:ground')))
  drawText(surface, sheet, margin, sheet.ascent + 1, text, colourToRgb565(colourOf(project, 'colour:ink')))
  return imageOf(surface.pixels, surface)
}
