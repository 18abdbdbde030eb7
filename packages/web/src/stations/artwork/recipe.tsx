import { Button, FileButton, SegmentedControl, UnstyledButton } from '@mantine/core'
import { useState, type KeyboardEvent, type PointerEvent } from 'react'
import {
  dithers,
  ditherTexts,
  fitTexts,
  fitPlan,
  fitWays,
  middlePart,
  type FitWay,
  type PictureRequest,
} from '@moth-lamp/core/artwork'
import type { Rect } from '@moth-lamp/core/base'
import {
  cutOf,
  fittingOf,
  pictureBytes,
  pictureSettings,
  shownSize,
  turnedSize,
  usersOf,
  type PictureRecord,
} from '@moth-lamp/core/project'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { OwnNumber } from './own-number.tsx'
import { pictureFiles, replaceOriginal } from '../../session/intake.ts'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { Compare } from './compare.tsx'
import { Pixels, requestOf, useChunk } from '../../parts/pixels.tsx'
import { PictureField } from './picture-field.tsx'
import { bytesWords, percent, ratioWords } from './words.ts'
import { DeleteUsed } from '../../parts/delete-used.tsx'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

/** The room for the original as it came, px. */
const stage = { width: 330, height: 200 }

/** How one picture is brought to the glass: what of it, how large, in which colours; every step kept and open to change. */
export function Recipe({ picture }: { picture: PictureRecord }) {
  const session = useSession()
  const project = useProject()
  const set = (values: Partial<PictureRecord>) => session.edit('set picture', { id: picture.id, values })
  // A part that is being drawn is shown before it is an edit.
  const [drawn, setDrawn] = useState<Rect | null>(null)
  const here = drawn ? { ...picture, partX: drawn.x, partY: drawn.y, partWidth: drawn.width, partHeight: drawn.height } : picture
  const request = requestOf(project, picture)
  // The recipe is that of the whole, whatever is cut out of it.
  const whole: PictureRequest = { ...request, cut: null }
  const shown = shownSize(picture)
  const chunk = useChunk(request)
  const size = picture.trims ? (chunk?.header.from ?? turnedSize(picture)) : turnedSize(picture)
  const plan = fitPlan(size, picture, fittingOf(here))
  const users = usersOf(project, picture.id)
  const cut = cutOf(picture)
  const kept = useStore(session.live, (l) => l.plan)?.pictures.find(({ id }) => id === picture.id)
  const bytes = kept?.bytes ?? pictureBytes(picture)
  const mm = (25.4 * project.panel.diagonalInches) / Math.sqrt(project.panel.width ** 2 + project.panel.height ** 2)
  const scale = Math.min(1, stage.width / size.width, stage.height / size.height)
  const looked = { width: Math.max(1, Math.round(size.width * scale)), height: Math.max(1, Math.round(size.height * scale)) }
  const original: PictureRequest = {
    ...whole,
    ...looked,
    fitting: { ...request.fitting, way: 'stretch' },
    dither: 'none',
    keepsAlpha: true,
  }
  const small = Math.min(1, 190 / shown.width, 150 / shown.height)
  const side = (name: string, key: 'width' | 'height') => (
    <div>
      <label>{name}, 1 to 2048</label>
      <NumberField
        label={`${name} of the picture`}
        value={picture[key]}
        min={1}
        max={2048}
        whole
        unit="px"
        onCommit={(value) => set({ [key]: value })}
      />
    </div>
  )
  const field = (key: keyof typeof pictureSettings.fields) => (
    <PictureField pictures={[picture]} setting={key} onChange={(value) => set({ [key]: value })} />
  )
  return (
    <section className={station.card} aria-label={`Recipe of ${picture.name}`}>
      <header>
        <div className="grow">
          <TextField
            label="Name of the picture"
            value={picture.name}
            isName
            check={(text) => (text.trim() ? null : 'Enter a name.')}
            onCommit={(name) => set({ name })}
          />
        </div>
        <OwnNumber of="picture" value={picture.number} onCommit={(number) => set({ number })} />
        <FileButton
          accept={pictureFiles}
          onChange={(file) =>
            void (
              file && replaceOriginal(session, picture, file).then((why) => why && session.say(`“${file.name}”: ${why}.`, 'bad'))
            )
          }
        >
          {(props) => (
            <Button {...props} title="Replace file (all users update)">
              Replace …
            </Button>
          )}
        </FileButton>
        <DeleteUsed
          key={picture.id}
          name={picture.name}
          users={[...new Set(users.map((u) => nameOfId(project, u.from)))]}
          then="Widgets fall back to their fill."
          onDelete={() => session.edit('delete picture', { id: picture.id })}
        />
      </header>
      <div className={styles.recipe}>
        <p className="small muted">
          from {picture.file || 'a file'} ·{' '}
          {users.length ? `used by ${[...new Set(users.map((u) => nameOfId(project, u.from)))].join(', ')}` : 'unused'}
        </p>
        <div className={styles.row}>
          <figure>
            <figcaption className="small">
              Original, <strong className="mono">{`${size.width} × ${size.height}`}</strong>
            </figcaption>
            <div className={styles.stage} style={looked}>
              <Pixels request={original} label="Original" />
              {picture.way === 'crop' && (
                <CropFrame
                  size={size}
                  scale={scale}
                  like={picture}
                  part={plan.from}
                  onDraw={setDrawn}
                  onDone={(part) => {
                    setDrawn(null)
                    set({ partX: part.x, partY: part.y, partWidth: part.width, partHeight: part.height })
                  }}
                />
              )}
            </div>
          </figure>
          <div className={styles.arrow}>
            <strong className="mono">{ratioWords(plan.across)}</strong>
            <div aria-hidden>⟶</div>
            {plan.across < 0.995 && <span className="small bad">upscaled</span>}
          </div>
          <figure>
            <figcaption className="small">
              Output, <strong className="mono">{`${shown.width} × ${shown.height}`}</strong>
              <br />
              <span className="muted">
                {bytesWords(bytes)}, {Math.round(shown.width * mm)} × {Math.round(shown.height * mm)} mm
              </span>
            </figcaption>
            <Pixels request={request} label="Output" scale={small} />
          </figure>
        </div>
        {cut && (
          <p className="small">
            Region of {picture.width} × {picture.height}: {cut.width} × {cut.height} from {cut.x}, {cut.y}.{' '}
            <Button size="compact-xs" onClick={() => set({ cutX: 0, cutY: 0, cutWidth: 0, cutHeight: 0 })}>
              Use whole image
            </Button>
          </p>
        )}
        <div className={styles.ways} role="radiogroup" aria-label="Scaling">
          {fitWays.map((way) => (
            <WayCard key={way} way={way} picture={picture} request={whole} size={size} onChoose={() => set({ way })} />
          ))}
        </div>
        <div className={styles.fields}>
          {side('Width', 'width')}
          {side('Height', 'height')}
          {field('turn')}
          {field('trims')}
          {field('ground')}
          {field('keepsAlpha')}
          {project.panel.readsRuns && field('kept')}
          <div>
            <label>Dithering</label>
            <SegmentedControl
              fullWidth
              size="xs"
              aria-label="Dithering"
              value={picture.dither}
              data={dithers.map((value) => ({ value, label: ditherTexts[value] }))}
              onChange={(dither) => set({ dither: dither as PictureRecord['dither'] })}
            />
          </div>
        </div>
        <Compare request={whole} />
      </div>
    </section>
  )
}

const meanings: Record<FitWay, string> = {
  exact: 'pixel for pixel',
  crop: 'part of the image',
  inside: 'whole image',
  fill: 'centre of the image',
  stretch: 'distorted',
}

/** One way to fit, as it would come out, and what it costs. */
function WayCard(props: {
  way: FitWay
  picture: PictureRecord
  request: PictureRequest
  size: { width: number; height: number }
  onChoose(): void
}) {
  const { way, picture, request, size, onChoose } = props
  const plan = fitPlan(size, picture, { ...fittingOf(picture), way })
  const scale = Math.min(1, 104 / picture.width, 66 / picture.height)
  const cost =
    Math.abs(plan.distortion) > 0.01
      ? `distorted ${percent(plan.distortion)}`
      : plan.lost > 0.005
        ? `${percent(plan.lost)} cropped`
        : plan.to.width < picture.width || plan.to.height < picture.height
          ? `bars ${Math.max(plan.to.x, plan.to.y)} px`
          : meanings[way]
  return (
    <UnstyledButton className={styles.way} role="radio" aria-checked={picture.way === way} onClick={onChoose}>
      <Pixels request={{ ...request, fitting: { ...request.fitting, way } }} label={`Scaling: ${fitTexts[way]}`} scale={scale} />
      <strong>{fitTexts[way]}</strong>
      <span className={`small ${Math.abs(plan.distortion) > 0.01 ? 'bad' : 'muted'}`}>{cost}</span>
    </UnstyledButton>
  )
}

interface CropProps {
  size: { width: number; height: number }
  scale: number
  /** Whose proportions the frame has. */
  like: { width: number; height: number }
  part: Rect
  onDraw(part: Rect): void
  onDone(part: Rect): void
}

/** The part that is taken, with the proportions of its size on the glass: moved, and drawn larger or smaller at its corner. */
function CropFrame({ size, scale, like, part, onDraw, onDone }: CropProps) {
  const [grip, setGrip] = useState<{ x: number; y: number; part: Rect; sizes: boolean } | null>(null)
  const largest = middlePart(size, like)
  /** So wide, and inside the original. */
  const sized = (from: Rect, width: number): Rect => {
    const wide = Math.round(Math.min(Math.max(8, width), largest.width, size.width - from.x))
    const high = Math.max(1, Math.round((wide * like.height) / like.width))
    return from.y + high <= size.height ? { ...from, width: wide, height: high } : sizedHigh(from)
  }
  const sizedHigh = (from: Rect): Rect => {
    const height = size.height - from.y
    return { ...from, height, width: Math.max(1, Math.round((height * like.width) / like.height)) }
  }
  const moved = (from: Rect, dx: number, dy: number): Rect => ({
    ...from,
    x: Math.round(Math.min(Math.max(0, from.x + dx), size.width - from.width)),
    y: Math.round(Math.min(Math.max(0, from.y + dy), size.height - from.height)),
  })
  const at = (e: PointerEvent): Rect | null => {
    if (!grip) return null
    const [dx, dy] = [(e.clientX - grip.x) / scale, (e.clientY - grip.y) / scale]
    return grip.sizes ? sized(grip.part, grip.part.width + dx) : moved(grip.part, dx, dy)
  }
  const take = (sizes: boolean) => (e: PointerEvent) => {
    if (e.button !== 0) return
    e.stopPropagation()
    e.currentTarget.setPointerCapture(e.pointerId)
    setGrip({ x: e.clientX, y: e.clientY, part, sizes })
  }
  const pull = (e: PointerEvent) => {
    const next = at(e)
    if (next) onDraw(next)
  }
  const drop = (e: PointerEvent) => {
    const next = at(e)
    setGrip(null)
    if (next) onDone(next)
  }
  const keys = (e: KeyboardEvent) => {
    const step = e.shiftKey ? 10 : 1
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key]
    if (by) onDone(moved(part, by[0]!, by[1]!))
    else if (e.key === '+' || e.key === '-') onDone(sized(part, part.width + (e.key === '+' ? 10 : -10)))
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const [x, y, width, height] = [part.x * scale, part.y * scale, part.width * scale, part.height * scale]
  const on = { onPointerMove: pull, onPointerUp: drop, onPointerCancel: () => setGrip(null) }
  return (
    <svg width={size.width * scale} height={size.height * scale}>
      <path
        d={`M0 0H${size.width * scale}V${size.height * scale}H0Z M${x} ${y}V${y + height}H${x + width}V${y}Z`}
        fill="var(--paper)"
        fillOpacity="0.62"
      />
      <rect
        role="slider"
        tabIndex={0}
        aria-label="Cropped part"
        aria-valuenow={part.x}
        aria-valuetext={`${part.width} × ${part.height} from ${part.x}, ${part.y}; arrows move it, + and − size it`}
        x={x}
        y={y}
        width={width}
        height={height}
        fill="transparent"
        stroke="var(--amber)"
        strokeWidth="2"
        onPointerDown={take(false)}
        onKeyDown={keys}
        {...on}
      />
      {[1, 2].flatMap((k) => [
        <line key={`x${k}`} x1={x + (width * k) / 3} x2={x + (width * k) / 3} y1={y} y2={y + height} stroke="#fff" strokeOpacity="0.35" pointerEvents="none" />, // prettier-ignore
        <line key={`y${k}`} x1={x} x2={x + width} y1={y + (height * k) / 3} y2={y + (height * k) / 3} stroke="#fff" strokeOpacity="0.35" pointerEvents="none" />, // prettier-ignore
      ])}
      <rect
        data-grip="size"
        x={x + width - 6}
        y={y + height - 6}
        width="12"
        height="12"
        fill="var(--sheet)"
        stroke="var(--amber)"
        strokeWidth="2"
        className={styles.grip}
        onPointerDown={take(true)}
        {...on}
      />
      <text
        x={x + 6}
        y={y + height - 8}
        fontSize="11"
        fill="#fff"
        stroke="#000"
        strokeWidth="2.5"
        paintOrder="stroke"
        pointerEvents="none"
      >
        {part.width} × {part.height}
      </text>
    </svg>
  )
}
