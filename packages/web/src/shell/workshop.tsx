import { Box } from '@mantine/core'
import { useCallback, useEffect, useState, type ComponentType } from 'react'
import { useNavigate } from 'react-router'
import { useStore } from '../session/store.ts'
import { BenchStation } from '../stations/bench/bench.tsx'
import { ExchangesStation } from '../stations/exchanges/exchanges.tsx'
import { FramesStation } from '../stations/frames/frames.tsx'
import { ArtworkStation } from '../stations/artwork/artwork.tsx'
import { PagesStation } from '../stations/pages/pages.tsx'
import { PanelStation } from '../stations/panel/panel.tsx'
import { VariablesStation } from '../stations/variables/variables.tsx'
import { useSession } from './context.tsx'
import { Finder } from './finder.tsx'
import { KeySheet } from './keys.tsx'
import { Notices } from './notice.tsx'
import { isTyping } from '../controls/typing.ts'
import { stations, type StationPath } from './station-list.ts'
import { TopBar } from './top-bar.tsx'
import shell from './shell.module.css'

const views: Record<StationPath, ComponentType> = {
  panel: PanelStation,
  artwork: ArtworkStation,
  pages: PagesStation,
  variables: VariablesStation,
  frames: FramesStation,
  bench: BenchStation,
  exchanges: ExchangesStation,
}

/** Bar, station, and the keys that work everywhere. */
export function Workshop({ station }: { station: string }) {
  const session = useSession()
  const navigate = useNavigate()
  const [keys, setKeys] = useState(false)
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

  const View = views[here.path]
  return (
    <div className={shell.shell} data-columns={columns ? 'shown' : 'away'}>
      <TopBar here={here.path} touching={touching} />
      <Box component="main" mih={0} miw={0}>
        <View />
      </Box>
      <Notices />
      <Finder onKeys={showKeys} />
      <KeySheet opened={keys} onClose={() => setKeys(false)} />
    </div>
  )
}
