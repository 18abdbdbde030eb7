import { useState, type PointerEvent } from 'react'
import { ditherTexts, type PictureRequest } from '@moth-lamp/core/artwork'
import { Pixels } from '../../parts/pixels.tsx'
import styles from './artwork.module.css'

/** Sides of what the lens looks at in pixels of the picture, and how much larger it shows them. */
const lens = { width: 9, height: 18, scale: 8 }

/** The picture without dither and as it is chosen, at true pixels; a lens shows the same spot of both. */
export function Compare({ request }: { request: PictureRequest }) {
  const [at, setAt] = useState({ x: Math.floor(request.width / 2), y: Math.floor(request.height / 2) })
  const width = Math.min(request.width, 300)
  const height = Math.min(request.height, 220)
  // The shown part of a large picture follows the pointer.
  const left = Math.min(Math.max(0, at.x - Math.floor(width / 2)), request.width - width)
  const top = Math.min(Math.max(0, at.y - Math.floor(height / 2)), request.height - height)
  const [view, setView] = useState({ x: left, y: top })
  const part = { x: Math.min(view.x, request.width - width), y: Math.min(view.y, request.height - height), width, height }
  const look = (e: PointerEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const x = part.x + Math.floor(e.clientX - box.left)
    const y = part.y + Math.floor(e.clientY - box.top)
    setAt({ x: Math.min(request.width - 1, Math.max(0, x)), y: Math.min(request.height - 1, Math.max(0, y)) })
  }
  const spot = {
    x: Math.min(Math.max(0, at.x - 4), Math.max(0, request.width - lens.width)),
    y: Math.min(Math.max(0, at.y - 9), Math.max(0, request.height - lens.height)),
    width: Math.min(lens.width, request.width),
    height: Math.min(lens.height, request.height),
  }
  const plain = { ...request, dither: 'none' as const }
  const [wide, high] = [2 * lens.width * lens.scale, lens.height * lens.scale]
  const name = request.dither === 'none' ? 'Current: none' : `Current: ${ditherTexts[request.dither]}`
  return (
    <figure>
      <figcaption className={`small ${styles.ends}`}>
        <strong>No dithering</strong>
        <span className="muted">shown pixel for pixel; lens × {lens.scale}</span>
        <strong>{name}</strong>
      </figcaption>
      <div className={styles.compare} style={{ height }}>
        {[plain, request].map((one, k) => (
          <div key={k} onPointerMove={look} onClick={() => setView({ x: Math.max(0, left), y: Math.max(0, top) })}>
            <Pixels request={one} label={k ? name : 'No dithering'} part={part} />
          </div>
        ))}
        <div
          className={styles.lens}
          aria-hidden
          style={{
            width: wide + 6,
            height: high + 6,
            left: `calc(50% - ${wide / 2 + 3}px)`,
            top: Math.max(0, (height - high) / 2 - 3),
          }}
        >
          <Pixels request={plain} label="Lens, no dithering" part={spot} scale={lens.scale} />
          <Pixels request={request} label="Lens" part={spot} scale={lens.scale} />
        </div>
      </div>
    </figure>
  )
}
