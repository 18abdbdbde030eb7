import { Button, UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import { hexByte } from '@moth-lamp/core/base'
import {
  byteEndUs,
  directionsOf,
  framingAt,
  operations,
  operationTexts,
  payloadOrders,
  standingParts,
  type BinaryWay,
  type Direction,
  type Form,
  type Operation,
} from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { FrameDiagram } from './frame-diagram.tsx'
import { FramingSentence } from './framing-sentence.tsx'
import styles from './frames.module.css'

/** `→`, `←` or `⇄`, by the directions that something travels. */
export const arrowOf = (directions: readonly Direction[]): string =>
  directions.length === 2 ? '⇄' : directions[0] === 'to panel' ? '→' : '←'

interface Props {
  project: Project
  way: BinaryWay
  /** The directions that the way serves. */
  serves: readonly Direction[]
  set(values: Partial<BinaryWay>): void
}

/** A way of bytes: how a frame is found, and of each operation its parts as wide as their bytes. */
export function BinaryWayEditor({ project, way, serves, set }: Props) {
  const [picked, setPicked] = useState<Operation>(serves.includes('to panel') ? 'write' : 'report')
  const offered = operations.filter((operation) => directionsOf[operation].some((direction) => serves.includes(direction)))
  const operation = offered.includes(picked) ? picked : offered[0]!
  const directions = directionsOf[operation].filter((direction) => serves.includes(direction))
  const form = way.forms.find((f) => f.operation === operation)
  const setForm = (change: Partial<Form>) =>
    set({ forms: way.forms.map((f) => (f.operation === operation ? { ...f, ...change } : f)) })
  return (
    <>
      <FramingSentence way={way} set={set} />
      <div className={styles.tabs} role="tablist" aria-label="Operation">
        {offered.map((op) => {
          const code = way.forms.find((f) => f.operation === op)?.code
          return (
            <UnstyledButton
              key={op}
              role="tab"
              aria-selected={op === operation}
              className={code === undefined ? styles.missing : ''}
              onClick={() => setPicked(op)}
            >
              <span aria-hidden>{arrowOf(directionsOf[op])}</span> {operationTexts[op]}{' '}
              {code !== undefined && <span className="mono small muted">{hexByte(code)}</span>}
            </UnstyledButton>
          )
        })}
      </div>
      {form ? (
        <FrameDiagram project={project} way={way} form={form} set={set} setForm={setForm} />
      ) : (
        <p className="muted">
          No “{operationTexts[operation]}” frame defined.{' '}
          <Button
            size="compact-xs"
            onClick={() => set({ forms: [...way.forms, { operation, directions, code: way.forms.length + 1, parts: [] }] })}
          >
            Add
          </Button>
        </p>
      )}
      <Limits project={project} way={way} form={form ?? null} set={set} setForm={setForm} />
    </>
  )
}

interface LimitsProps {
  project: Project
  way: BinaryWay
  form: Form | null
  set(values: Partial<BinaryWay>): void
  setForm(change: Partial<Form>): void
}

/** Limits of all frames: the longest and its time, the buffer a host needs, the order of bytes. */
function Limits({ project, way, form, set, setForm }: LimitsProps) {
  const { link } = project
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
          onChange={(payload) => set({ payload: payload as BinaryWay['payload'] })}
        />
      </span>
    </Sentence>
  )
}

const codeOf = (text: string): number | null => (/^[0-9a-f]{1,2}$/i.test(text.trim()) ? parseInt(text, 16) : null)

/** Bytes of the longest frame, flags and end bytes counted, without escapes. */
function longestFrame(way: BinaryWay): number {
  const { before, after, bodySize } = framingAt(way.framing)
  const flags = before.length + after.length
  if (bodySize !== null) return flags + bodySize
  const body = (form: Form) => standingParts(way, form, way.mostPayload).at(-1)?.to ?? 0
  return flags + Math.max(0, ...way.forms.map(body))
}
