import { Box, Button, Menu, UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import { hexByte } from '@moth-lamp/core/base'
import {
  byteEndUs,
  directionsOf,
  framingAt,
  lampBinary,
  lengthLedStart,
  operations,
  payloadOrders,
  standingParts,
  type Form,
  type Layout,
  type Way,
  type Operation,
  operationTexts,
} from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { Items } from '../../controls/pop.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { FrameDiagram } from './frame-diagram.tsx'
import { FramingSentence } from './framing-sentence.tsx'
import styles from './frames.module.css'
import station from '../../parts/station.module.css'

const arrows = (operation: Operation): string =>
  directionsOf[operation].length === 2 ? '⇄' : directionsOf[operation][0] === 'to panel' ? '→' : '←'

/** The values of a way as an edit of the layout takes them: part by part. */
const ofWay = (at: 'toPanel', values: Partial<Way>) =>
  Object.fromEntries(Object.entries(values).map(([key, value]) => [`${at}/${key}`, value]))

/** The layout: how a frame is found, and of each operation its parts as wide as their bytes. */
export function LayoutCard({ project }: { project: Project }) {
  const session = useSession()
  const { layout } = project
  const [operation, setOperation] = useState<Operation>('write')
  // Found in the worker, as all that is told of a project: a layout of many forms is no work for the page.
  const findings = useStore(session.live, (l) => l.findings)
  const lines = findings.flatMap(({ code, facts }) => (code === 'layout' ? [String(facts['why'])] : []))
  const way = layout.toPanel
  const form = way.forms.find((f) => f.operation === operation)
  const setLayout = (values: Partial<Layout>) => session.edit('set layout', { values })
  const set = (values: Partial<Way>) => setLayout(ofWay('toPanel', values))
  const setForm = (change: Partial<Form>) =>
    set({ forms: way.forms.map((f) => (f.operation === operation ? { ...f, ...change } : f)) })
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
        <Menu position="bottom-start">
          <Menu.Target>
            <Button size="compact-xs">Template ▾</Button>
          </Menu.Target>
          <Items>
            <Menu.Item onClick={() => setLayout({ ...lampBinary })}>lamp binary: byte-stuffed, FCS-16</Menu.Item>
            <Menu.Item onClick={() => setLayout({ ...lengthLedStart })}>length-prefixed: start byte, CRC-16</Menu.Item>
          </Items>
        </Menu>
        <FramingSentence way={way} set={set} />
        {!lines.length && (
          <span className="end ok" role="status" title="every frame decodes unambiguously">
            ✓ Layout valid
          </span>
        )}
      </Box>
      <div className={`${station.body} stack`}>
        <div className={styles.tabs} role="tablist" aria-label="Operation">
          {operations.map((op) => {
            const code = way.forms.find((f) => f.operation === op)?.code
            return (
              <UnstyledButton
                key={op}
                role="tab"
                aria-selected={op === operation}
                className={code === undefined ? styles.missing : ''}
                onClick={() => setOperation(op)}
              >
                <span aria-hidden>{arrows(op)}</span> {operationTexts[op]}{' '}
                {code !== undefined && <span className="mono small muted">{hexByte(code)}</span>}
              </UnstyledButton>
            )
          })}
        </div>
        {form ? (
          <FrameDiagram project={project} form={form} set={set} setForm={setForm} />
        ) : (
          <p className="muted">
            No “{operationTexts[operation]}” frame defined.{' '}
            <Button
              size="compact-xs"
              onClick={() =>
                set({
                  forms: [
                    ...way.forms,
                    { operation, directions: directionsOf[operation], code: way.forms.length + 1, parts: [] },
                  ],
                })
              }
            >
              Add
            </Button>
          </p>
        )}
        {lines.length > 0 && (
          <div role="status" className="bad">
            <strong>Invalid layout:</strong> {lines.join(' ')}
          </div>
        )}
        <Limits project={project} form={form ?? null} set={set} setForm={setForm} />
      </div>
    </section>
  )
}

interface LimitsProps {
  project: Project
  form: Form | null
  set(values: Partial<Way>): void
  setForm(change: Partial<Form>): void
}

/** Limits of all frames: the longest and its time, the buffer a host needs, the order of bytes. */
function Limits({ project, form, set, setForm }: LimitsProps) {
  const { layout, link } = project
  const way = layout.toPanel
  const longest = longestFrame(way)
  const ms = byteEndUs(link, 0, longest) / 1000
  return (
    <Sentence className={styles.limits}>
      {form && (
        <span>
          Code{' '}
          <TextField
            mono
            label={`Code of ${operationTexts[form.operation]}`}
            value={hexByte(form.code)}
            check={(t) => (codeOf(t) === null ? 'Enter one byte in hex.' : null)}
            onCommit={(t) => setForm({ code: codeOf(t)! })}
          />{' '}
          <Button
            size="compact-xs"
            variant="subtle"
            title={`removes “${operationTexts[form.operation]}” from the layout`}
            onClick={() => set({ forms: way.forms.filter((f) => f !== form) })}
          >
            Remove “{operationTexts[form.operation]}”
          </Button>
        </span>
      )}
      <span title="without byte stuffing">
        Max frame <strong>{longest} bytes</strong> = {ms.toFixed(ms < 10 ? 1 : 0)} ms
      </span>
      <span>
        Max payload
        <NumberField
          label="Maximum payload"
          value={way.mostPayload}
          min={2}
          max={1024}
          whole
          onCommit={(mostPayload) => set({ mostPayload })}
        />
      </span>
      <span title="one frame arrives while the previous one is processed">
        Host receive buffer ≥ <strong>{2 * longest} bytes</strong> (two frames)
      </span>
      <span>
        Payload byte order
        <Choice
          label="Payload byte order"
          value={way.payload}
          options={payloadOrders.map((o) => ({
            value: o,
            label: { 'as memory': 'as in memory', low: 'little-endian', high: 'big-endian' }[o],
          }))}
          onChange={(payload) => set({ payload: payload as Way['payload'] })}
        />
      </span>
    </Sentence>
  )
}

const codeOf = (text: string): number | null => (/^[0-9a-f]{1,2}$/i.test(text.trim()) ? parseInt(text, 16) : null)

/** Bytes of the longest frame, flags and end bytes counted, without escapes. */
function longestFrame(way: Way): number {
  const { before, after, bodySize } = framingAt(way.framing)
  const flags = before.length + after.length
  if (bodySize !== null) return flags + bodySize
  const body = (form: Form) => standingParts(way, form, way.mostPayload).at(-1)?.to ?? 0
  return flags + Math.max(0, ...way.forms.map(body))
}
