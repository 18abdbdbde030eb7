import { Spotlight, spotlight } from '@mantine/spotlight'
import { Search } from 'lucide-react'
import { useMemo, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { takesFocus } from '../controls/focus.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import { stations } from '../shell/station-list.ts'
import { findable, found, type Findable } from './findable.ts'
import frame from '../parts/frame.module.css'
import styles from './finder.module.css'

const placeholder = 'Search commands, settings, pages, widgets, variables and exchanges'

/** Finds any command, setting, page, widget, variable or exchange by a part of its name, and leads to it. */
export function Finder({ onKeys }: { onKeys(): void }) {
  const session = useSession()
  const navigate = useNavigate()
  const [open, setOpen] = useState(false)
  const [query, setQuery] = useState('')
  const project = useStore(session.document, (d) => (open ? d.project : null))
  const all = useMemo(
    () =>
      project
        ? findable(session, project, (station) => void navigate(station ? `/project/${session.id}/${station}` : '/'), onKeys)
        : [],
    [session, project, navigate, onKeys],
  )
  const groups = useMemo(() => found(all, query), [all, query])
  return (
    <Spotlight.Root
      query={query}
      onQueryChange={setQuery}
      onSpotlightOpen={() => setOpen(true)}
      onSpotlightClose={() => (setOpen(false), setQuery(''))}
      shortcut={['mod + K']}
      tagsToIgnore={[]}
      scrollable
      maxHeight={430}
      transitionProps={{ duration: 0 }}
      overlayProps={{ blur: 0, backgroundOpacity: 0.28, color: '#14161f' }}
      attributes={{ content: { 'aria-label': 'Search and commands' } }}
      classNames={{ content: styles.content!, body: styles.body! }}
    >
      <Spotlight.Search
        ref={takesFocus}
        leftSection={<Search size={16} />}
        leftSectionWidth={38}
        placeholder={`${placeholder} …`}
        aria-label={placeholder}
        classNames={{ input: styles.search! }}
      />
      <Spotlight.ActionsList className={styles.list!}>
        {groups.map(([title, items]) => (
          <Spotlight.ActionsGroup key={title} label={title} classNames={{ actionsGroup: styles.group! }}>
            {items.map((item) => (
              <FoundRow key={item.id} item={item} query={query} />
            ))}
          </Spotlight.ActionsGroup>
        ))}
        {!groups.length && <Spotlight.Empty>No match</Spotlight.Empty>}
      </Spotlight.ActionsList>
    </Spotlight.Root>
  )
}

/** A row: the dot of its station, its name, what it is, and its key or its address. */
function FoundRow({ item, query }: { item: Findable; query: string }) {
  const station = stations.find(({ path }) => path === item.station)
  return (
    <Spotlight.Action
      className={styles.action!}
      onClick={() => {
        spotlight.close()
        item.run()
      }}
    >
      <span className={styles.dot} data-station={station ? 'true' : 'false'} aria-hidden />
      <span className={styles.label}>{marked(item.label, query)}</span>
      <span className={styles.detail}>{item.detail}</span>
      {item.address !== undefined && <AddressBytes address={item.address} />}
      {item.keys && <span className="key">{item.keys}</span>}
      <span className={styles.station}>{station?.name ?? ''}</span>
    </Spotlight.Action>
  )
}

/** The two bytes of an address, tinted as on the wire. */
function AddressBytes({ address }: { address: number }) {
  const hex = address.toString(16).toUpperCase().padStart(4, '0')
  return (
    <span role="img" aria-label={`address 0x${hex}`} className={styles.bytes}>
      {[hex.slice(0, 2), hex.slice(2)].map((byte, k) => (
        <span key={k} className={frame.byte} data-tint="address">
          {byte}
        </span>
      ))}
    </span>
  )
}

/** The part of a name that was typed, in bold. */
function marked(label: string, query: string): ReactNode {
  const text = query.trim().toLowerCase()
  const at = text ? label.toLowerCase().indexOf(text) : -1
  if (at < 0) return label
  return (
    <>
      {label.slice(0, at)}
      <strong>{label.slice(at, at + text.length)}</strong>
      {label.slice(at + text.length)}
    </>
  )
}
