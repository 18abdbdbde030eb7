import { Box, Button, Kbd, Radio, Stack } from '@mantine/core'
import { Eye, Pointer } from 'lucide-react'
import { memo, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react'
import type { PageId, WidgetId } from '@moth-lamp/core/base'
import { sights, type Sight } from '@moth-lamp/core/palette'
import { usersOf, type Page, type Project } from '@moth-lamp/core/project'
import { extremeOf } from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { Pop } from '../../controls/pop.tsx'
import { EditLayer } from '../../glass/edit-layer.tsx'
import { Glass } from '../../glass/glass.tsx'
import { StartMarks, useStartsShown } from '../../glass/start-marks.tsx'
import { TouchLayer } from '../../glass/touch-layer.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { useDeskKeys } from './desk-keys.ts'
import { Starters } from './starters.tsx'
import { PageTools } from './page-tools.tsx'
import styles from './pages.module.css'

/** The glass of the mode that begins takes the focus that the glass of the other one had. */
function useKeptFocus(touching: boolean) {
  const before = useRef(touching)
  useLayoutEffect(() => {
    if (before.current === touching) return
    before.current = touching
    if (document.activeElement === document.body)
      document.querySelector<HTMLElement>('[data-glass]')?.focus({ preventScroll: true })
  }, [touching])
}

/** The glass in the middle of Pages, with what can be done to it above and what is known of the page below. */
export const Desk = memo(function Desk(props: { project: Project; page: Page; touching: boolean }) {
  const { project, page, touching } = props
  const session = useSession()
  const ground = useRef<HTMLDivElement>(null)
  const [zoom, setZoom] = useState('auto')
  const [room, setRoom] = useState({ width: 800, height: 600 })
  useEffect(() => {
    const watch = new ResizeObserver(
      ([entry]) => entry && setRoom({ width: entry.contentRect.width, height: entry.contentRect.height }),
    )
    watch.observe(ground.current!)
    return () => watch.disconnect()
  }, [])
  const { width, height } = project.panel
  const fit = Math.min((room.width - 40) / width, (room.height - 40) / height)
  const scale = zoom === 'auto' ? (fit >= 1 ? Math.min(3, Math.floor(fit)) : Math.max(0.1, fit)) : Number(zoom)
  const sight = useStore(session.view, (v) => v.sight)
  const starts = useStore(session.view, (v) => v.starts)
  useDeskKeys(page, touching)
  useKeptFocus(touching)
  usePretended(touching)
  const power = () => session.worker.send({ type: 'restart' })
  return (
    <>
      <div
        className={styles.ground}
        ref={ground}
        onPointerDown={(e) => e.target === e.currentTarget && session.view.set({ widgets: [] })}
      >
        <Glass page={touching ? null : page.id} scale={scale} live={touching} label={`Glass: ${page.name}`} sight={sight}>
          {touching && starts && <StartMarks scale={scale} />}
          {touching ? <TouchLayer scale={scale} /> : <EditLayer project={project} page={page} scale={scale} />}
          {!touching && !page.widgets.length && <Starters page={page} width={width * scale} />}
        </Glass>
      </div>
      <div className={styles.tools}>
        {touching ? (
          <span>
            <strong>Panel running.</strong> Touch it as a user would; <span className="key">L</span> returns to Edit.{' '}
            <Button onClick={power}>Power cycle</Button>
          </span>
        ) : (
          <PageTools project={project} page={page} />
        )}
      </div>
      <PageFoot project={project} page={page} scale={scale}>
        <SightChoice />
        <ZoomChoice zoom={zoom} fitted={scale >= 1 && zoom === 'auto' ? `${scale * 100} %` : 'fitted'} onChange={setZoom} />
      </PageFoot>
    </>
  )
})

/** How large the glass is on the screen; `fitted`: what is said of the size that fits. */
const ZoomChoice = memo(function ZoomChoice(props: { zoom: string; fitted: string; onChange(zoom: string): void }) {
  const { zoom, fitted, onChange } = props
  return (
    <Box component="span" w={84}>
      <Choice
        label="Zoom"
        value={zoom}
        options={[{ value: 'auto', label: fitted }, ...['1', '2', '3'].map((n) => ({ value: n, label: `${n}00 %` }))]}
        onChange={onChange}
      />
    </Box>
  )
})

/** Whose eyes, or which light, the glass is shown for. */
const SightChoice = memo(function SightChoice() {
  const session = useSession()
  const sight = useStore(session.view, (v) => v.sight)
  const [open, setOpen] = useState(false)
  return (
    <Pop
      opened={open}
      onChange={setOpen}
      position="top-end"
      width={250}
      target={
        <Button
          flex="none"
          aria-label={`Vision simulation: ${sightTexts[sight]}`}
          title="Vision simulation"
          onClick={() => setOpen(!open)}
        >
          <Eye size={14} />
          {sight !== 'as it is' && <Box ml={5}>{sightTexts[sight]}</Box>}
        </Button>
      }
    >
      {open && (
        <Radio.Group label="Vision simulation" value={sight} onChange={(value) => session.view.set({ sight: value as Sight })}>
          <Stack gap={6} mt={6}>
            {sights.map((value) => (
              <Radio key={value} value={value} label={sightTexts[value]} description={sightWords[value]} />
            ))}
          </Stack>
        </Radio.Group>
      )}
    </Pop>
  )
})

const sightTexts: Record<Sight, string> = {
  'as it is': 'normal',
  'red-blind': 'protanopia',
  'green-blind': 'deuteranopia',
  'blue-blind': 'tritanopia',
  'in sunlight': 'sunlight',
}

const sightWords: Record<Sight, string> = {
  'as it is': 'full colour vision, indoors',
  'red-blind': 'without red cones',
  'green-blind': 'without green cones',
  'blue-blind': 'without blue cones',
  'in sunlight': '30 klx on a glass of 400 cd/m²',
}

/** Foot of the desk: facts of the page, how it is reached, and the button that runs it. */
function PageFoot(props: { project: Project; page: Page; scale: number; children: ReactNode }) {
  const { project, page, scale, children } = props
  const session = useSession()
  const { width, height } = project.panel
  const live = useStore(session.live, (l) => l.page)
  const touching = useStore(session.view, (v) => v.lamp === 'touch' || v.alt)
  const viewed = useStore(session.view, (v) => v.page)
  const from = [...new Set(usersOf(project, page.id).flatMap((u) => project.widgets[u.from as WidgetId]?.page ?? []))]
  const other = touching && live && live !== viewed && viewed in project.pages ? project.pages[viewed as PageId] : null
  return (
    <div className={`${styles.pageFoot} small muted`}>
      <span className="grow cut">
        {width} × {height} px{scale < 1 ? ` · scaled ${Math.round(scale * 100)} %` : ''} ·{' '}
        {project.startPage === page.id ? 'start page · ' : ''}
        {from.length ? `opened from ${from.map((id) => project.pages[id]!.name).join(', ')} · ` : ''}
        {page.widgets.length === 1 ? '1 widget' : `${page.widgets.length} widgets`}
      </span>
      {children}
      {!touching && (
        <Button leftSection={<Pointer size={14} />} onClick={() => session.view.set({ lamp: 'touch' })}>
          Run this page <Kbd size="xs">L</Kbd>
        </Button>
      )}
      {touching && <StartsButton />}
      {other && (
        <Button onClick={() => session.worker.send({ type: 'host writes', id: 'variable:own-page', value: other.number })}>
          Panel shows {page.name} · go to {other.name}
        </Button>
      )}
    </div>
  )
}

/** Asks which widgets show a value that nobody has written yet. */
function StartsButton() {
  const session = useSession()
  const starts = useStore(session.view, (v) => v.starts)
  const count = useStartsShown().length
  if (!count) return null
  return (
    <Button
      aria-pressed={starts}
      title="still at the initial value since power-on"
      onClick={() => session.view.set({ starts: !starts })}
    >
      {count} not yet received
    </Button>
  )
}

/** The values the desk shows instead of those that are stored; gone with the lamp. */
function usePretended(touching: boolean) {
  const session = useSession()
  const project = useProject()
  const shown = useStore(session.view, (v) => v.shown)
  const swept = useStore(session.view, (v) => v.swept)
  const which = touching ? 'now' : shown
  const values = useStore(session.live, (l) => l.values)
  const now = which === 'stale' ? values : null
  useEffect(() => {
    const drawn = swept && !touching ? { [swept.variable]: swept.value } : null
    if (which === 'now') {
      session.pretend(drawn)
      return () => session.pretend(null)
    }
    const all = Object.values(project.variables).map(
      (v) => [v.id, which === 'stale' ? (now?.[v.id]?.value ?? v.initial) : extremeOf(v.holds, which)] as const,
    )
    session.pretend({ ...Object.fromEntries(all), ...drawn }, which === 'stale')
    return () => session.pretend(null)
  }, [session, which, swept, touching, project.variables, now])
}
