import { useEffect, useMemo, useRef } from 'react'
import type { ChunkOf, ChunkRequest, PictureRequest } from '@moth-lamp/core/artwork'
import { isProblem, type PictureId } from '@moth-lamp/core/base'
import { pictureUse } from '@moth-lamp/core/compile'
import { colourOf, firstLook, shownSize, type PictureRecord, type Project } from '@moth-lamp/core/project'
import { expand565 } from '@moth-lamp/core/raster'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../session/context.tsx'
import styles from './pixels.module.css'

/** How a picture of the project is made, in the first look there is. */
export const requestOf = (project: Project, picture: PictureRecord): PictureRequest =>
  pictureUse(picture, colourOf(project, picture.ground, firstLook(project))).request

/** A picture, or letters, that are asked for: null until it is made, or where it cannot be. */
export function useChunk<R extends ChunkRequest>(request: R): ChunkOf<R> | null {
  const { studio } = useSession()
  const made = useStore(studio.came, () => studio.get(request))
  return made && !isProblem(made) ? made : null
}

/** The pixels of the glass as those of the screen. */
export function imageOf(
  pixels: Uint16Array,
  { width, height }: { width: number; height: number },
  alpha?: Uint8Array,
): ImageData {
  const image = new ImageData(width, height)
  for (let i = 0; i < pixels.length; i++) {
    const { red, green, blue } = expand565(pixels[i]!)
    image.data.set([red, green, blue, alpha ? alpha[i]! : 255], 4 * i)
  }
  return image
}

interface PixelsProps {
  request: PictureRequest
  label: string
  /** Pixels of the screen to one of the picture. */
  scale?: number
  /** Shown part; none: the whole. */
  part?: { x: number; y: number; width: number; height: number }
}

/** A picture as the glass shows it, pixel by pixel. While another is made the last one stays. */
export function Pixels({ request, label, scale = 1, part }: PixelsProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const chunk = useChunk(request)
  const image = useMemo(() => chunk && imageOf(chunk.parts.pixels, chunk.header, chunk.parts.alpha), [chunk])
  const { x, y, width, height } = part ?? {
    x: 0,
    y: 0,
    width: request.cut?.width ?? request.width,
    height: request.cut?.height ?? request.height,
  }
  useEffect(() => {
    if (!image) return
    const context = canvas.current!.getContext('2d')!
    context.clearRect(0, 0, width, height)
    context.putImageData(image, -x, -y)
  }, [image, x, y, width, height])
  return (
    <canvas
      ref={canvas}
      width={width}
      height={height}
      role="img"
      aria-label={label}
      data-made={chunk ? '' : undefined}
      className={styles.pixels}
      style={{ width: width * scale, height: height * scale }}
    />
  )
}

/** A picture of the project, as much smaller as it must be for a place on the screen; at its true pixels where there is room. */
export function SmallPicture({ id, width, height }: { id: string; width: number; height: number }) {
  const project = useProject()
  const picture = project.pictures[id as PictureId]
  if (!picture) return null
  const size = shownSize(picture)
  return (
    <Pixels
      request={requestOf(project, picture)}
      label={picture.name}
      scale={Math.min(1, width / size.width, height / size.height)}
    />
  )
}
