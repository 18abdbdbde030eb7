import { Box, Button, FileButton, Menu, SegmentedControl } from '@mantine/core'
import { useRef, useState } from 'react'
import { sentence } from '@moth-lamp/core/base'
import { shippedLayouts } from '@moth-lamp/core/examples'
import { lampBinary, wayOf, type Direction, type Layout, type Way } from '@moth-lamp/core/frames'
import { layoutFile, layoutFileSentences, readLayoutFile, type Project } from '@moth-lamp/core/project'
import { lampLines } from '@moth-lamp/core/protocols'
import { Choice } from '../../controls/choice.tsx'
import { TextField } from '../../controls/fields.tsx'
import { Items } from '../../controls/pop.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { fileName, saveFile } from '../../session/save-file.ts'
import { BinaryWayEditor } from './binary-way.tsx'
import { Examples } from './examples/examples.tsx'
import { LinesWayEditor } from './lines-way.tsx'
import styles from './frames.module.css'
import station from '../../parts/station.module.css'

/** The values of a way as an edit of the layout takes them: part by part. */
const ofWay = (at: 'toPanel' | 'toHost', way: Way, values: Partial<Way>) =>
  Object.keys(values).every((key) => Object.hasOwn(way, key))
    ? Object.fromEntries(Object.entries(values).map(([key, value]) => [`${at}/${key}`, value]))
    : { [at]: { ...way, ...values } }

/** The layout: how the frames of each direction are made. */
export function LayoutCard({ project }: { project: Project }) {
  const session = useSession()
  const { layout } = project
  const [shown, setShown] = useState<Direction>('to panel')
  // Found in the worker, as all that is told of a project: a layout of many forms is no work for the page.
  const findings = useStore(session.live, (l) => l.findings)
  const lines = findings.flatMap(({ code, facts }) => (code === 'layout' ? [String(facts['why'])] : []))
  const isSame = layout.toHost === 'same'
  const at = isSame || shown === 'to panel' ? 'toPanel' : 'toHost'
  const way = wayOf(layout, at === 'toPanel' ? 'to panel' : 'to host')
  const serves: readonly Direction[] = isSame ? ['to panel', 'to host'] : [shown]
  const setLayout = (values: Partial<Layout>) => session.edit('set layout', { values })
  const set = (values: Partial<Way>) => session.edit('set layout', { values: ofWay(at, way, values) })
  return (
    <section className={station.card} aria-label="Layout">
      <Box component="header" className={styles.head}>
        <h2>Layout</h2>
        <Box component="span" w={132}>
          <TextField
            label="Name of the layout"
            value={layout.name}
            isName
            check={(t) => (t.trim() ? null : 'Enter a name.')}
            onCommit={(name) => setLayout({ name })}
          />
        </Box>
        <Templates layout={layout} onSet={setLayout} />
        <Examples project={project} />
        <Ways layout={layout} shown={shown} onShow={setShown} onSet={setLayout} />
        {!lines.length && (
          <span className="end ok" role="status" title="every frame decodes unambiguously">
            ✓ Layout valid
          </span>
        )}
      </Box>
      <div className={`${station.body} stack`}>
        {way.kind === 'lines' ? (
          <LinesWayEditor key={at} project={project} way={way} serves={serves} set={set} />
        ) : (
          <BinaryWayEditor key={at} project={project} way={way} serves={serves} set={set} />
        )}
        {lines.length > 0 && (
          <div role="status" className="bad">
            <strong>Invalid layout:</strong> {lines.join(' ')}
          </div>
        )}
      </div>
    </section>
  )
}

/** Layouts to begin with; this one as a file, or one from a file. */
function Templates({ layout, onSet }: { layout: Layout; onSet(values: Partial<Layout>): void }) {
  const session = useSession()
  const again = useRef<() => void>(null)
  const open = async (file: File | null) => {
    // The same file may be opened again.
    again.current?.()
    if (!file) return
    const read = readLayoutFile(await file.text())
    if (read.ok) onSet({ examples: [], ...read.value })
    else session.say(`${file.name}: ${sentence(layoutFileSentences[read.problem.code] ?? read.problem.code, read.problem.facts)}`)
  }
  const save = () =>
    saveFile(`${fileName(layout.name, 'layout')}.json`, new Blob([layoutFile(layout)], { type: 'application/json' }))
  return (
    <FileButton
      resetRef={again}
      accept=".json,application/json"
      inputProps={{ 'aria-label': 'Layout file' }}
      onChange={(file) => void open(file)}
    >
      {({ onClick }) => (
        <Menu position="bottom-start">
          <Menu.Target>
            <Button size="compact-xs">Template ▾</Button>
          </Menu.Target>
          <Items>
            {shippedLayouts.map(({ layout: template, label }) => (
              <Menu.Item key={template.name} onClick={() => onSet({ ...template, examples: [] })}>
                {label}
              </Menu.Item>
            ))}
            <Menu.Divider />
            <Menu.Item onClick={onClick}>Open a layout from a file …</Menu.Item>
            <Menu.Item onClick={save}>Save this layout to a file</Menu.Item>
          </Items>
        </Menu>
      )}
    </FileButton>
  )
}

interface WaysProps {
  layout: Layout
  shown: Direction
  onShow(direction: Direction): void
  onSet(values: Partial<Layout>): void
}

/** The kind of way of each direction; where they differ, the one that is shown. */
function Ways({ layout, shown, onShow, onSet }: WaysProps) {
  const { toPanel, toHost } = layout
  const fresh = (kind: string): Way => (kind === 'lines' ? lampLines.toPanel : lampBinary.toPanel)
  const kinds = [
    { value: 'binary', label: 'bytes' },
    { value: 'lines', label: 'lines of text' },
  ]
  return (
    <Sentence className={styles.sentence}>
      host → panel
      <Choice
        label="Frames to the panel"
        value={toPanel.kind}
        options={kinds}
        onChange={(kind) => kind !== toPanel.kind && onSet({ toPanel: fresh(kind) })}
      />
      · panel → host
      <Choice
        label="Frames to the host"
        value={toHost === 'same' ? 'same' : toHost.kind}
        options={[{ value: 'same', label: 'same' }, ...kinds]}
        onChange={(kind) => {
          if (kind === 'same') return onSet({ toPanel: { ...toPanel }, toHost: 'same' })
          if (toHost !== 'same' && toHost.kind === kind) return
          onSet({ toHost: kind === toPanel.kind ? { ...toPanel } : fresh(kind) })
          onShow('to host')
        }}
      />
      {toHost !== 'same' && (
        <SegmentedControl
          size="xs"
          aria-label="Direction shown"
          value={shown}
          onChange={(direction) => onShow(direction as Direction)}
          data={[
            { value: 'to panel', label: 'host → panel' },
            { value: 'to host', label: 'panel → host' },
          ]}
        />
      )}
    </Sentence>
  )
}
