import { useEffect, useRef } from 'react'
import type { Rect } from '@moth-lamp/core/base'
import type { Project, Widget } from '@moth-lamp/core/project'
import { usePagePicture } from './page-pictures.ts'
import styles from './glass.module.css'

interface Props {
  project: Project
  widgets: readonly Widget[]
  /** Room for it, px of the screen. */
  height: number
  width: number
}

/** The piece of a page on which some of its widgets stand, made as small as it must be. */
export function GlassCrop({ project, widgets, height, width }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const picture = usePagePicture(project, widgets[0]!.page)
  const box = around(widgets, project)
  const scale = Math.min(1, height / box.height, width / box.width)
  const shown = { width: Math.max(1, Math.round(box.width * scale)), height: Math.max(1, Math.round(box.height * scale)) }
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context || !picture) return
    const ratio = window.devicePixelRatio || 1
    context.canvas.width = Math.ceil(shown.width * ratio)
    context.canvas.height = Math.ceil(shown.height * ratio)
    context.imageSmoothingQuality = 'high'
    context.drawImage(picture, box.x, box.y, box.width, box.height, 0, 0, context.canvas.width, context.canvas.height)
  }, [picture, box.x, box.y, box.width, box.height, shown.width, shown.height])
  return <canvas ref={canvas} className={styles.crop} style={shown} aria-hidden />
}

/** The part of the glass that holds all of them. */
function around(widgets: readonly Widget[], { panel }: Project): Rect {
  const clamp = (at: number, most: number) => Math.min(Math.max(0, at), most)
  const x = clamp(Math.min(...widgets.map((w) => w.place.x)), panel.width - 1)
  const y = clamp(Math.min(...widgets.map((w) => w.place.y)), panel.height - 1)
  const right = clamp(Math.max(...widgets.map((w) => w.place.x + w.place.width)), panel.width)
  const bottom = clamp(Math.max(...widgets.map((w) => w.place.y + w.place.height)), panel.height)
  return { x, y, width: Math.max(1, right - x), height: Math.max(1, bottom - y) }
}
