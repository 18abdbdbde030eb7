import { Kbd, Modal } from '@mantine/core'
import { stations, type StationPath } from './station-list.ts'
import styles from './keys.module.css'

type Keys = readonly (readonly [keys: string, does: string])[]

/** The keys that work on every station. */
const everywhere: Keys = [
  ['1 … 7', 'go to station 1 to 7'],
  ['L', 'Edit or Run'],
  ['Alt', 'run while pressed'],
  ['C', 'hide or show side panels'],
  ['Ctrl K', 'search and commands'],
  ['Ctrl .', 'calculator: hex, BCD, float, checksums of the selection'],
  ['Ctrl Z, Ctrl Y', 'undo, redo'],
  ['?', 'keyboard shortcuts'],
]

/** The keys of each station, in the order in which the job meets them. */
const ofStation: Partial<Record<StationPath, Keys>> = {
  pages: [
    ['A', 'add a widget: type its name or key'],
    ['Enter', 'add where there is room (in the list of widgets)'],
    ['[, ]', 'previous / next widget'],
    ['Enter, Esc', 'to the settings and back'],
    ['/', 'all settings of the selection'],
    ['Arrows', 'move 1 px; Shift 10 px; Ctrl resize'],
    ['Ctrl A', 'select all widgets of the page'],
    ['Ctrl C, X, V', 'copy, cut, paste: also to other pages and projects'],
    ['Ctrl D', 'duplicate (repeats the last offset)'],
    ['R', 'repeat as a grid'],
    ['G', 'group / ungroup'],
    ['K', 'lock / unlock position'],
    ['X', 'slice faces from a page image'],
    ['Page up, down', 'bring forward / send backward'],
    ['Delete', 'delete'],
    ['T', 'table view'],
    ['S', 'show all touch areas'],
    ['<, >', 'preview values: minimum, maximum, longest, stale'],
    ['Alt Up, Down', 'move page up / down (in the page list)'],
    ['Tab, Space', 'while running: next touchable widget; press it'],
  ],
  artwork: [
    ['A', 'add pictures'],
    ['Shift, Ctrl', 'with a click: select several pictures'],
    ['Arrows', 'move the cropped part; + and − resize it'],
  ],
  variables: [
    ['N', 'new variable'],
    ['[, ]', 'previous / next variable (in the memory map)'],
    ['Arrows', 'move the variable by one word (in the memory map)'],
  ],
  frames: [['Alt arrows', 'reorder the fields of a frame']],
  bench: [
    ['H, Space', 'pause or run'],
    ['F', 'next fault in the conversation'],
    ['Arrows', 'previous / next frame in the conversation'],
    ['Tab, Space', 'on the glass: next touchable widget; press it'],
  ],
  exchanges: [
    ['N', 'new exchange'],
    ['R', 'run the exchange'],
    ['S', 'next step of the run'],
    ['Up, Down', 'previous / next step'],
    ['Alt Up, Down', 'move the step'],
    ['Delete', 'delete the step'],
  ],
}

/** The keys there are by station: the present one first. */
export function KeySheet({ here, opened, onClose }: { here: StationPath; opened: boolean; onClose(): void }) {
  const others = stations.filter(({ path }) => path !== here && ofStation[path])
  const now = stations.find(({ path }) => path === here)
  return (
    <Modal
      opened={opened}
      onClose={onClose}
      title="Keyboard shortcuts"
      size={760}
      transitionProps={{ duration: 0 }}
      overlayProps={{ blur: 0, backgroundOpacity: 0.28, color: '#14161f' }}
      classNames={{ content: styles.content!, header: styles.header! }}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <div className={styles.groups}>
        {now && ofStation[here] && <Group title={now.name} here keys={ofStation[here]} />}
        <Group title="Everywhere" keys={everywhere} />
        {others.map(({ path, name }) => (
          <Group key={path} title={name} keys={ofStation[path]!} />
        ))}
      </div>
    </Modal>
  )
}

function Group({ title, keys, here }: { title: string; keys: Keys; here?: boolean }) {
  return (
    <section className={styles.group} aria-label={`Keys: ${title}`}>
      <h3 data-here={here || undefined}>{title}</h3>
      <dl>
        {keys.map(([key, does]) => (
          <div key={key + does}>
            <dt>
              <Kbd size="xs">{key}</Kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  )
}
