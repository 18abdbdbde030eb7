import { Box } from '@mantine/core'
import { lazy, Suspense, useCallback, useEffect, useRef, useState, type ComponentType } from 'react'
import { useNavigate } from 'react-router'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { Finder } from './finder.tsx'
import { KeySheet } from '../shell/keys.tsx'
import { Notices } from '../shell/notice.tsx'
import { isTyping } from '../controls/typing.ts'
import { stations, type StationPath } from '../shell/station-list.ts'
import { TopBar } from './top-bar.tsx'
import shell from '../parts/shell.module.css'

/** The code of each station: the one that is looked at comes first, the others right after it. */
const sources = {
  panel: async () => ({ default: (await import('../stations/panel/panel.tsx')).PanelStation }),
  artwork: async () => ({ default: (await import('../stations/artwork/artwork.tsx')).ArtworkStation }),
  pages: async () => ({ default: (await import('../stations/pages/pages.tsx')).PagesStation }),
  variables: async () => ({ default: (await import('../stations/variables/variables.tsx')).VariablesStation }),
  frames: async () => ({ default: (await import('../stations/frames/frames.tsx')).FramesStation }),
  bench: async () => ({ default: (await import('../stations/bench/bench.tsx')).BenchStation }),
  exchanges: async () => ({ default: (await import('../stations/exchanges/exchanges.tsx')).ExchangesStation }),
}
const views: Record<StationPath, ComponentType> = {
  panel: lazy(sources.panel),
  artwork: lazy(sources.artwork),
  pages: lazy(sources.pages),
  variables: lazy(sources.variables),
  frames: lazy(sources.frames),
  bench: lazy(sources.bench),
  exchanges: lazy(sources.exchanges),
}

/** Fetched after what is looked at first: its styles come behind those of every control. */
const CalculatorPop = lazy(async () => ({ default: (await import('./calculator.tsx')).CalculatorPop }))

/** Fetches the code of a station before it is shown: then it is there at once, and hears the first key. */
export async function fetchStation(station: string): Promise<void> {
  const { path } = stations.find((s) => s.path === station) ?? stations[1]
  const { default: view } = await sources[path]()
  views[path] = view
}

/** Has the code of the other stations fetched once the first is there, so that going there takes no time. */
const fetchOthers = (): void => Object.values(sources).forEach((source) => void source().catch(() => undefined))

/** Bar, station, and the keys that work everywhere. */
export function Workshop({ station }: { station: string }) {
  const session = useSession()
  const navigate = useNavigate()
  const [keys, setKeys] = useState(false)
  const main = useRef<HTMLElement>(null)
  const showKeys = useCallback(() => setKeys(true), [])
  const columns = useStore(session.view, (v) => v.columns)
  const lamp = useStore(session.view, (v) => (v.alt ? 'touch' : v.lamp))
  const here = stations.find((s) => s.path === station) ?? stations[1]
  const benched = here.path === 'bench'
  const touching = benched || lamp === 'touch'

  useEffect(() => {
    session.setClock(touching)
  }, [session, touching])

  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const control = e.ctrlKey || e.metaKey
      if (e.defaultPrevented || isTyping(e.target)) return
      else if (control && e.key.toLowerCase() === 'z') {
        e.preventDefault()
        if (e.shiftKey) session.redo()
        else session.undo()
      } else if (control && e.key.toLowerCase() === 'y') {
        e.preventDefault()
        session.redo()
      } else if (control || e.altKey) return
      else if (e.key === '?') setKeys(true)
      else if (e.key.toLowerCase() === 'l' && !benched)
        session.view.set({ lamp: session.view.value.lamp === 'edit' ? 'touch' : 'edit' })
      else if (e.key.toLowerCase() === 'c') session.view.set({ columns: !session.view.value.columns })
      else if (/^[1-9]$/.test(e.key)) {
        const station = stations[Number(e.key) - 1]
        if (station) void navigate(`/project/${session.id}/${station.path}`)
      }
    }
    // Alt held: Touch for as long. Leaving the window lets it go.
    const alt = (e: KeyboardEvent) => {
      if (e.key !== 'Alt') return
      e.preventDefault()
      session.view.set({ alt: e.type === 'keydown' })
    }
    const letGo = () => session.view.value.alt && session.view.set({ alt: false })
    window.addEventListener('keydown', onKey)
    window.addEventListener('keydown', alt)
    window.addEventListener('keyup', alt)
    window.addEventListener('blur', letGo)
    return () => {
      window.removeEventListener('keydown', onKey)
      window.removeEventListener('keydown', alt)
      window.removeEventListener('keyup', alt)
      window.removeEventListener('blur', letGo)
    }
  }, [session, navigate, benched])

  // Where nothing has the focus, Tab begins at the station: the bar is reached by Shift with Tab.
  useEffect(() => {
    if (document.activeElement === document.body) main.current?.focus({ preventScroll: true })
  }, [here.path])

  const View = views[here.path]
  return (
    <div className={shell.shell} data-columns={columns ? 'shown' : 'away'}>
      <TopBar here={here.path} touching={touching} />
      <Box component="main" ref={main} tabIndex={-1} className={shell.main} mih={0} miw={0}>
        <Suspense fallback={null}>
          <View />
          <WhenThere then={fetchOthers} />
        </Suspense>
      </Box>
      <Notices />
      <Finder onKeys={showKeys} />
      <Suspense>
        <CalculatorPop />
      </Suspense>
      <KeySheet here={here.path} opened={keys} onClose={() => setKeys(false)} />
    </div>
  )
}

/** Does something when what stands beside it has come. */
function WhenThere({ then }: { then(): void }) {
  useEffect(() => then(), [then])
  return null
}
