import type { CSSProperties } from 'react'
import type { Rect } from '@moth-lamp/core/base'

/** Where a rectangle of the glass stands over it on the screen; along one axis only, where it goes from side to side of the other. */
export function placed(rect: Rect, scale: number, axis?: 'x' | 'y'): CSSProperties {
  const across = { left: rect.x * scale, width: rect.width * scale }
  const down = { top: rect.y * scale, height: rect.height * scale }
  if (!axis) return { ...across, ...down }
  return axis === 'x' ? { left: across.left } : { top: down.top }
}
