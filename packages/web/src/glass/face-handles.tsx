import { useRef, type PointerEvent } from 'react'
import type { Face } from '@moth-lamp/core/faces'
import type { Widget } from '@moth-lamp/core/project'
import { useSession } from '../session/context.tsx'
import styles from './glass.module.css'

/** Smaller ones have no room for handles inside, px on the screen. */
const leastPx = 44

const mostBorder = 20

interface Grip {
  part: 'radius' | 'borderWidth'
  label: string
  /** From the left and the top edge of the widget, px of the glass. */
  x: number
  y: number
  most: number
  /** The number for a pointer that moved so far, px of the glass. */
  from(dx: number, dy: number): number
}

function gripsOf(face: Face, { width, height }: Widget['place']): Grip[] {
  if (face.shape !== 'box') return []
  const most = Math.floor(Math.min(width, height) / 2)
  const radius = Math.min(face.radius, most)
  const grips: Grip[] = [{ part: 'radius', label: 'Radius', x: Math.max(radius, 11), y: 0, most, from: (dx) => face.radius + dx }]
  if (face.border)
    grips.push({
      part: 'borderWidth',
      label: 'Border',
      x: face.borderWidth,
      y: height / 2 + 14,
      most: Math.min(mostBorder, most),
      from: (dx) => face.borderWidth + dx,
    })
  return grips
}

/** On the selected widget: a round handle on the upper edge draws its radius, one at the left edge its border. */
export function FaceHandles({ widget, scale }: { widget: Widget; scale: number }) {
  const session = useSession()
  const drag = useRef<{ fromX: number; fromY: number; grip: Grip; values: Record<string, number> | null } | null>(null)
  const face = widget.settings['face'] as Face | undefined
  const { place } = widget
  // A shared face is edited on Artwork, and individual corners have no single radius.
  if (face?.named || face?.corners.length) return null
  if (!face?.shape || place.width * scale < leastPx || place.height * scale < leastPx / 2) return null
  // The face while it is pressed keeps the same outline for as long as it has the same.
  const others = ['pressedFace'].filter((key) => {
    const other = widget.settings[key] as Face | undefined
    return other?.radius === face.radius && other.borderWidth === face.borderWidth
  })
  const move = (e: PointerEvent) => {
    const now = drag.current
    if (!now) return
    e.stopPropagation()
    const { part, most, from } = now.grip
    const to = Math.max(0, Math.min(most, Math.round(from((e.clientX - now.fromX) / scale, (e.clientY - now.fromY) / scale))))
    now.values = Object.fromEntries(['face', ...others].map((key) => [`${key}/${part}`, to]))
    session.preview('set widgets', { ids: [widget.id], values: now.values })
  }
  const end = (e: PointerEvent) => {
    const values = drag.current?.values
    drag.current = null
    e.stopPropagation()
    if (!values) return
    session.cancelPreview()
    session.edit('set widgets', { ids: [widget.id], values })
  }
  return gripsOf(face, place).map((grip) => (
    <span
      key={grip.part}
      className={styles.grip}
      title={`${grip.label}: ${face[grip.part]} px, drag right to increase`}
      data-grip={grip.part}
      style={{ left: (place.x + grip.x) * scale, top: (place.y + grip.y) * scale }}
      onPointerDown={(e) => {
        if (e.button !== 0) return
        e.stopPropagation()
        e.currentTarget.setPointerCapture(e.pointerId)
        drag.current = { fromX: e.clientX, fromY: e.clientY, grip, values: null }
      }}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={() => {
        drag.current = null
        session.cancelPreview()
      }}
    />
  ))
}
