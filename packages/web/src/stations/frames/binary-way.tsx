import { Button, UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import { hexByte, hexWord } from '@moth-lamp/core/base'
import {
  byteEndUs,
  directionsOf,
  framingAt,
  operations,
  operationTexts,
  payloadOrders,
  standingParts,
  textTravels,
  type BinaryWay,
  type Direction,
  type Form,
  type Operation,
  type TextTravel,
} from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { holdsTypes } from '@moth-lamp/core/variables'
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

/** A form among the tabs, or an operation that has none yet. */
interface Tab {
  operation: Operation
  /** Its place among the forms of the way; −1: there is none. */
  index: number
}

/** A way of bytes: how a frame is found, and of each operation its parts as wide as their bytes. */
export function BinaryWayEditor({ project, way, serves, set }: Props) {
  const [at, setAt] = useState(0)
  const { forms } = way
  const offered = operations.filter((operation) => directionsOf[operation].some((direction) => serves.includes(direction)))
  const tabs: Tab[] = offered.flatMap((operation) => {
    const own = forms.flatMap((form, index) => (form.operation === operation ? [{ operation, index }] : []))
    return own.length ? own : [{ operation, index: -1 }]
  })
  const { operation, index } = tabs[Math.min(at, tabs.length - 1)]!
  const directions = directionsOf[operation].filter((direction) => serves.includes(direction))
  const form = forms[index]
  const setForm = (change: Partial<Form>) => set({ forms: forms.map((f, k) => (k === index ? { ...f, ...change } : f)) })
  const add = (parts: Form['parts']) => set({ forms: [...forms, { operation, directions, code: freeCode(forms), parts }] })
  return (
    <>
      <FramingSentence way={way} set={set} />
      <div className={styles.tabs} role="tablist" aria-label="Operation">
        {tabs.map((tab, k) => {
          const shown = forms[tab.index]
          return (
            <UnstyledButton
              key={k}
              role="tab"
              aria-selected={k === Math.min(at, tabs.length - 1)}
              className={shown ? '' : styles.missing}
              onClick={() => setAt(k)}
            >
              <span aria-hidden>{arrowOf(directionsOf[tab.operation])}</span> {operationTexts[tab.operation]}{' '}
              {shown && <span className="mono small muted">{hexCode(shown.code)}</span>}
            </UnstyledButton>
          )
        })}
      </div>
      {form ? (
        <FrameDiagram project={project} way={way} form={form} set={set} setForm={setForm} />
      ) : (
        <p className="muted">
          No “{operationTexts[operation]}” frame defined.{' '}
          <Button size="compact-xs" onClick={() => add([])}>
            Add
          </Button>
        </p>
      )}
      <Limits
        project={project}
        way={way}
        form={form ?? null}
        set={set}
        setForm={setForm}
        onAnother={() => {
          add(form?.parts ?? [])
          setAt(tabs.findLastIndex((tab) => tab.operation === operation) + 1)
        }}
      />
    </>
  )
}

/** The lowest code from 1 on that no form has. */
const freeCode = (forms: readonly Form[]): number => {
  let code = 1
  while (forms.some((form) => form.code === code)) code++
  return code
}

const hexCode = (code: number): string => (code > 255 ? hexWord(code) : hexByte(code))

interface LimitsProps {
  project: Project
  way: BinaryWay
  form: Form | null
  set(values: Partial<BinaryWay>): void
  setForm(change: Partial<Form>): void
  /** Adds another form of the same operation. */
  onAnother(): void
}

const travelTexts: Readonly<Record<TextTravel, string>> = {
  whole: 'whole',
  used: 'as long as they are',
  ended: 'with an end byte',
  padded: 'filled with',
}

/** Limits of all frames: the longest and its time, the buffer a host needs, the order of bytes. */
function Limits({ project, way, form, set, setForm, onAnother }: LimitsProps) {
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
            value={hexCode(form.code)}
            check={(t) => (codeOf(t) === null ? 'Enter one or two bytes in hex.' : null)}
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
          <Button
            size="compact-xs"
            variant="subtle"
            title={`another form of “${operationTexts[form.operation]}”: for one data type, or of another length`}
            onClick={onAnother}
          >
            Add another
          </Button>
        </span>
      )}
      {form && (
        <span>
          for
          <Choice
            label="Data type of this form"
            value={form.types?.[0] ?? ''}
            options={[{ value: '', label: 'all data types' }, ...holdsTypes.map((type) => ({ value: type, label: type }))]}
            onChange={(type) => setForm({ types: type ? [type] : [] })}
          />
        </span>
      )}
      {form && framingAt(way.framing).bodySize !== null && (
        <span title="0: that of the framing">
          its length
          <NumberField
            label="Length of this form"
            value={form.size ?? 0}
            min={0}
            max={1100}
            whole
            onCommit={(size) => setForm({ size })}
          />
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
        Texts
        <Choice
          label="How texts travel"
          value={way.texts ?? 'whole'}
          options={textTravels.map((value) => ({ value, label: travelTexts[value] }))}
          onChange={(texts) => set({ texts: texts as TextTravel })}
        />
        {(way.texts === 'ended' || way.texts === 'padded') && (
          <TextField
            mono
            label={way.texts === 'ended' ? 'End byte of texts' : 'Fill byte of texts'}
            value={hexByte(way.textByte ?? 0)}
            check={(t) => (/^[0-9a-f]{1,2}$/i.test(t.trim()) ? null : 'Enter one byte in hex.')}
            onCommit={(t) => set({ textByte: parseInt(t, 16) })}
          />
        )}
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

const codeOf = (text: string): number | null => (/^[0-9a-f]{1,4}$/i.test(text.trim()) ? parseInt(text, 16) : null)

/** Bytes of the longest frame, flags and end bytes counted, without escapes. */
function longestFrame(way: BinaryWay): number {
  const { before, after, bodySize } = framingAt(way.framing)
  const flags = before.length + after.length
  if (bodySize !== null) return flags + bodySize
  const body = (form: Form) => standingParts(way, form, way.mostPayload).at(-1)?.to ?? 0
  return flags + Math.max(0, ...way.forms.map(body))
}
