import { Group, UnstyledButton } from '@mantine/core'
import { useElementSize } from '@mantine/hooks'
import { scaleLinear } from 'd3-scale'
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { leastTargetMm, panelSettings, pixelsPerMm, type PanelProfile, type Project } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { Choice } from '../../controls/choice.tsx'
import { DescribedNumber } from '../../parts/described-number.tsx'
import { drawnBy, screenPerMm, steppedBy, type GlassEdge } from './glass-scale.ts'
import { usePagePicture } from '../../glass/page-pictures.ts'
import { useSession } from '../../session/context.tsx'
import { glassSizes } from '../../parts/glass-sizes.ts'
import styles from './panel.module.css'

/** Size of a fingertip, mm. */
const fingerMm = { 'bare finger': 9, 'gloved finger': 15 } as const
const margin = { left: 46, top: 24 }
/** Beside the glass: bezel, handle, the last number of the ruler; px of the screen. */
const besideGlass = margin.left + 36
/** A small glass is drawn no larger than that, or a fingertip would cover its rulers; px a mm. */
const mostPerMm = 8

/** The room for the glass in a card that is so wide, px of the screen. */
const roomIn = (width: number) => {
  const free = Math.max(180, (width || 580) - besideGlass)
  return { width: free, height: Math.min(420, Math.max(252, free / 2)) }
}

/** The glass to scale: rulers in mm, its edges and corner to drag, a fingertip to lay on it; outlines of usual sizes. */
export function GlassPicture({ project }: { project: Project }) {
  const session = useSession()
  const { panel } = project
  const [draft, setDraft] = useState<Partial<PanelProfile> | null>(null)
  const shown = { ...panel, ...draft }
  const perMm = pixelsPerMm(shown)
  const mm = { width: shown.width / perMm, height: shown.height / perMm }
  const { ref, width } = useElementSize()
  const room = roomIn(width)
  // The picture keeps its scale while one drags.
  const scale = Math.min(mostPerMm, screenPerMm(panel, room))
  const set = (values: Partial<PanelProfile>) => session.edit('set panel', { values })
  const size = { width: mm.width * scale, height: mm.height * scale }
  const x = scaleLinear([0, mm.width], [0, size.width])
  const y = scaleLinear([0, mm.height], [0, size.height])

  const drag = (edge: GlassEdge, start: Point, now: Point) =>
    drawnBy(panel, edge, { x: now.x - start.x, y: now.y - start.y }, scale)
  return (
    <div className={styles.glassPicture} ref={ref}>
      <Rulers x={x} y={y} mm={mm} size={size} />
      <div
        className={styles.bezel}
        style={{ left: margin.left, top: margin.top, width: size.width + 20, height: size.height + 20 }}
      >
        <Page project={project} width={size.width} height={size.height} />
        <Finger size={fingerMm[panel.finger] * scale} room={size} />
        {(['width', 'height', 'corner'] as const).map((edge) => (
          <Grip
            key={edge}
            edge={edge}
            onDrag={(start, now) => setDraft(drag(edge, start, now))}
            onDrop={(start, now) => (setDraft(null), set(drag(edge, start, now)))}
            onStep={(by) => set(steppedBy(panel, edge, by))}
          />
        ))}
      </div>
      <div style={{ height: margin.top + Math.max(size.height, 120) + 28 }} />
      <SizeNumbers shown={shown} set={set} />
      <FingerLine project={project} set={set} />
      <UsualSizes panel={panel} set={set} />
    </div>
  )
}

type Point = { x: number; y: number }
type Size = { width: number; height: number }
type SetPanel = (values: Partial<PanelProfile>) => void

/** Rulers in mm along the upper and the left edge. */
function Rulers({ x, y, mm, size }: { x: Scale; y: Scale; mm: Size; size: Size }) {
  return (
    <svg
      width={margin.left + size.width + 34}
      height={margin.top + Math.max(size.height, 120) + 26}
      className={styles.rulers}
      aria-hidden
    >
      <g transform={`translate(${margin.left + 10} ${margin.top - 4})`}>
        {x.ticks(Math.min(60, Math.round(mm.width / 2))).map((at) => (
          <line key={at} x1={x(at)} x2={x(at)} y1="0" y2={at % 10 ? -3 : -7} />
        ))}
        {x.ticks(8).map((at) => (
          <text key={at} x={x(at)} y="-9" textAnchor="middle">
            {at}
          </text>
        ))}
      </g>
      <g transform={`translate(${margin.left - 4} ${margin.top + 10})`}>
        {y.ticks(Math.min(40, Math.round(mm.height / 2))).map((at) => (
          <line key={at} y1={y(at)} y2={y(at)} x1="0" x2={at % 10 ? -3 : -7} />
        ))}
        {y.ticks(5).map((at) => (
          <text key={at} y={y(at) + 3} x="-10" textAnchor="end">
            {at}
          </text>
        ))}
      </g>
      <text x="2" y="12">
        mm
      </text>
    </svg>
  )
}
type Scale = ReturnType<typeof scaleLinear<number, number>>

/** Width, height and diagonal as numbers, and how dense the pixels are. */
function SizeNumbers({ shown, set }: { shown: PanelProfile; set: SetPanel }) {
  const perMm = pixelsPerMm(shown)
  return (
    <Group gap={8} wrap="nowrap" className={styles.numbers}>
      <DescribedNumber field={panelSettings.fields.width} left="w" value={shown.width} onCommit={(width) => set({ width })} />
      <DescribedNumber field={panelSettings.fields.height} left="h" value={shown.height} onCommit={(height) => set({ height })} />
      <DescribedNumber
        field={panelSettings.fields.diagonalInches}
        left="⌀"
        value={shown.diagonalInches}
        onCommit={(diagonalInches) => set({ diagonalInches })}
      />
      <span className="small muted">
        {(shown.width / perMm).toFixed(1)} × {(shown.height / perMm).toFixed(1)} mm · <strong>{perMm.toFixed(2)}</strong> px/mm
      </span>
    </Group>
  )
}

/** The finger that touches the glass, and whether the smallest thing that is touched has room for it. */
function FingerLine({ project, set }: { project: Project; set: SetPanel }) {
  const { panel } = project
  const least = leastTouched(project)
  const finger = fingerMm[panel.finger]
  const fits = least === null || least.mm >= leastTargetMm[panel.finger]
  return (
    <div className={styles.fingerLine}>
      <i className={styles.dot} />
      Operated with:
      <span className={styles.word}>
        <Choice
          label="Operated with"
          value={panel.finger}
          options={Object.entries(fingerMm).map(([value, size]) => ({ value, label: value, detail: `${size} mm` }))}
          onChange={(value) => set({ finger: value as PanelProfile['finger'] })}
        />
      </span>
      <span className="small muted">
        {finger} mm = {Math.round(finger * pixelsPerMm(panel))} px
      </span>
      <span>
        {least && (
          <>
            Smallest target: <strong>{least.name}</strong>, {least.mm.toFixed(1)} mm (minimum {leastTargetMm[panel.finger]} mm)
          </>
        )}
      </span>
      <strong className={`end ${fits ? 'ok' : styles.warn}`}>{fits ? '✓ targets large enough' : '! targets too small'}</strong>
    </div>
  )
}

/** Glasses of usual sizes, to one scale. */
function UsualSizes({ panel, set }: { panel: PanelProfile; set: SetPanel }) {
  return (
    <div className={styles.sizes} role="group" aria-label="Common sizes, to scale">
      {glassSizes.map((s) => {
        const px = Math.hypot(s.width, s.height) / (s.inches * 25.4)
        const here = s.width === panel.width && s.height === panel.height && s.inches === panel.diagonalInches
        return (
          <UnstyledButton
            key={`${s.width} ${s.height} ${s.inches}`}
            aria-pressed={here}
            onClick={() => set({ width: s.width, height: s.height, diagonalInches: s.inches })}
          >
            <i style={{ width: (s.width / px) * 0.21, height: (s.height / px) * 0.21 }} />
            <span className="mono">
              {s.width} × {s.height}
            </span>
            <span className="small muted">{s.inches}″</span>
          </UnstyledButton>
        )
      })}
    </div>
  )
}

/** The smaller side of the smallest thing that is touched, mm. */
function leastTouched(project: Project): { name: string; mm: number } | null {
  const perMm = pixelsPerMm(project.panel)
  let least: { name: string; mm: number } | null = null
  for (const { name, kind, place } of Object.values(project.widgets)) {
    const mm = Math.min(place.width, place.height) / perMm
    if (widgetKind(kind)?.touchable && (!least || mm < least.mm)) least = { name, mm }
  }
  return least
}

function Page({ project, width, height }: { project: Project; width: number; height: number }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const picture = usePagePicture(project, project.pageOrder[0] ?? '')
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context || !picture) return
    const ratio = window.devicePixelRatio || 1
    context.canvas.width = Math.round(width * ratio)
    context.canvas.height = Math.round(height * ratio)
    context.imageSmoothingQuality = 'high'
    context.drawImage(picture, 0, 0, context.canvas.width, context.canvas.height)
  }, [picture, width, height])
  return <canvas ref={canvas} style={{ width, height }} role="img" aria-label="The start page" />
}

/** The middle of something so long, kept inside a length; of something longer, the middle of the length. */
const within = (middle: number, size: number, length: number): number => {
  const least = Math.min(size, length) / 2
  return size > length ? length / 2 : Math.min(Math.max(middle, least), length - least)
}

/** A fingertip, laid anywhere on the glass. */
function Finger({ size, room }: { size: number; room: { width: number; height: number } }) {
  const [at, setAt] = useState({ x: 0.7, y: 0.86 })
  const move = (e: PointerEvent<HTMLElement>) => {
    const box = e.currentTarget.parentElement!.getBoundingClientRect()
    setAt({ x: (e.clientX - box.left - 10) / room.width, y: (e.clientY - box.top - 10) / room.height })
  }
  /** It stays on the glass, or in the middle of one that is smaller than it. */
  const left = within(at.x * room.width, size, room.width)
  const top = within(at.y * room.height, size, room.height)
  return (
    <i
      className={styles.finger}
      title="fingertip: drag it to compare"
      style={{ width: size, height: size, left: 10 + left - size / 2, top: 10 + top - size / 2 }}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && move(e)}
    />
  )
}

interface GripProps {
  edge: 'width' | 'height' | 'corner'
  onDrag(start: { x: number; y: number }, now: { x: number; y: number }): void
  onDrop(start: { x: number; y: number }, now: { x: number; y: number }): void
  onStep(by: number): void
}

function Grip({ edge, onDrag, onDrop, onStep }: GripProps) {
  const start = useRef<{ x: number; y: number } | null>(null)
  const at = (e: PointerEvent) => ({ x: e.clientX, y: e.clientY })
  const words = { width: 'Right edge, width', height: 'Lower edge, height', corner: 'Corner, diagonal' }[edge]
  const onKey = (e: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key]
    if (!by) return
    e.preventDefault()
    onStep(by * (e.shiftKey ? 10 : 1))
  }
  return (
    <UnstyledButton
      className={`${styles.grip} ${styles[edge]}`}
      aria-label={words}
      title={`${words}: drag, or arrow keys`}
      onPointerDown={(e) => {
        if (e.button !== 0) return
        start.current = at(e)
        e.currentTarget.setPointerCapture(e.pointerId)
      }}
      onPointerMove={(e) => start.current && onDrag(start.current, at(e))}
      onPointerUp={(e) => {
        const from = start.current
        start.current = null
        if (from && (from.x !== e.clientX || from.y !== e.clientY)) onDrop(from, at(e))
      }}
      onKeyDown={onKey}
    />
  )
}
