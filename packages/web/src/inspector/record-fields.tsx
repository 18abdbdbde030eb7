import { noFace } from '@moth-lamp/core/faces'
import { eventKinds } from '@moth-lamp/core/frames'
import { deedKind, deedKinds, freshLine, momentWords, type Action, type Line } from '@moth-lamp/core/rules'
import { freshEffect, type Effect } from '@moth-lamp/core/scripts'
import type { State, StateWhen } from '@moth-lamp/core/widgets'
import type { ReactNode } from 'react'
import { Choice, ColourField, NumberField, TextField, YesNo } from '../parts/fields.tsx'
import { VariablePicker } from '../parts/pickers.tsx'
import { useProject, useSession } from '../shell/context.tsx'
import { FaceField } from './face-field.tsx'
import type { FieldProps, RowedProps } from './field.ts'

const freshWhen: Record<StateWhen['by'], StateWhen> = {
  value: { by: 'value', value: 0 },
  range: { by: 'range', from: 0, to: 10 },
  bit: { by: 'bit', bit: 0, set: true },
}

function WhenFields({ when, onChange, label }: { when: StateWhen; onChange(when: StateWhen): void; label: string }) {
  return (
    <span className="row">
      <span style={{ width: 66 }}>
        <Choice
          label={`${label}: by`}
          value={when.by}
          options={['value', 'range', 'bit']}
          onChange={(by) => onChange(freshWhen[by as StateWhen['by']])}
        />
      </span>
      {when.by === 'value' && (
        <NumberField label={`${label}: value`} value={when.value} onCommit={(value) => onChange({ ...when, value })} />
      )}
      {when.by === 'range' && (
        <>
          <NumberField label={`${label}: from`} value={when.from} onCommit={(from) => onChange({ ...when, from })} />
          <NumberField label={`${label}: to`} value={when.to} onCommit={(to) => onChange({ ...when, to })} />
        </>
      )}
      {when.by === 'bit' && (
        <>
          <NumberField
            label={`${label}: bit`}
            value={when.bit}
            min={0}
            max={15}
            whole
            onCommit={(bit) => onChange({ ...when, bit })}
          />
          <Choice
            label={`${label}: is`}
            value={when.set ? 'set' : 'clear'}
            options={['set', 'clear']}
            onChange={(is) => onChange({ ...when, set: is === 'set' })}
          />
        </>
      )}
    </span>
  )
}

/** A list of records edited whole: each may be changed, taken out, and one more added. */
function ListField<T>({
  items,
  onChange,
  add,
  addLabel,
  item,
}: {
  items: readonly T[]
  onChange(items: T[]): void
  add(): T
  addLabel: string
  item(value: T, set: (value: T) => void, i: number): ReactNode
}) {
  const put = (i: number, value: T | null) =>
    onChange(items.flatMap((old, k) => (k === i ? (value === null ? [] : [value]) : [old])))
  return (
    <div>
      {items.map((value, i) => (
        <div className="sub" key={i}>
          {item(value, (next) => put(i, next), i)}
          <span className="row">
            <button className="button tiny plain end" aria-label={`Take out number ${i + 1}`} onClick={() => put(i, null)}>
              take out
            </button>
          </span>
        </div>
      ))}
      <button className="button tiny" onClick={() => onChange([...items, add()])}>
        {addLabel}
      </button>
    </div>
  )
}

export function StatesField({ value, onChange }: FieldProps) {
  const states = value as State[]
  return (
    <ListField
      items={states}
      onChange={onChange}
      addLabel="+ State"
      add={() => ({
        when: { by: 'value' as const, value: states.length },
        meaning: `state ${states.length}`,
        face: states.at(-1)?.face ?? { ...noFace, fill: '#7fe07a' },
        textColour: '#10202c',
      })}
      item={(state, set, i) => (
        <>
          <WhenFields label={`State ${i + 1}`} when={state.when} onChange={(when) => set({ ...state, when })} />
          <span className="row">
            <TextField
              label={`State ${i + 1}: meaning`}
              value={state.meaning}
              onCommit={(meaning) => set({ ...state, meaning })}
            />
            <FaceField label={`State ${i + 1}: face`} value={state.face} onChange={(face) => set({ ...state, face })} />
          </span>
          <ColourField
            label={`State ${i + 1}: text colour`}
            value={state.textColour}
            onCommit={(textColour) => set({ ...state, textColour })}
          />
        </>
      )}
    />
  )
}

/** What one line does: the deed, and its settings by its description. */
function LineFields({
  line,
  set,
  label,
  Row,
  nameHint,
}: {
  line: Line
  set(line: Line): void
  label: string
  Row: RowedProps['Row']
  nameHint: string
}) {
  const fields = deedKind(line.deed)?.settings.list ?? []
  return (
    <>
      <Choice
        label={`${label}: does`}
        value={line.deed}
        options={deedKinds().map((kind) => ({ value: kind.deed, label: kind.label }))}
        onChange={(deed) => set({ ...keepTarget(freshLine(deed), line), id: line.id })}
      />
      {fields.map((field) => (
        <Row
          key={field.key}
          setting={{ ...field, label: `${label}: ${field.label}` }}
          shown={field.label}
          value={line.with[field.key]}
          mixed={false}
          nameHint={nameHint}
          onChange={(value) => set({ ...line, with: { ...line.with, [field.key]: value } })}
        />
      ))}
    </>
  )
}

export function ActionsField({ value, onChange, nameHint, Row }: RowedProps) {
  return (
    <ListField
      items={value as Action[]}
      onChange={onChange}
      addLabel="+ Action"
      add={(): Action => ({ on: { moment: 'pressed', everyMs: 0 }, lines: [freshLine('step')] })}
      item={(action, set, i) => {
        const label = `Action ${i + 1}`
        const { moment, everyMs } = action.on
        return (
          <>
            <Choice
              label={`${label}: when`}
              value={moment}
              options={eventKinds.map((m) => ({ value: m, label: momentWords[m] }))}
              onChange={(m) => set({ ...action, on: { moment: m as typeof moment, everyMs: m === 'pressed' ? everyMs : 0 } })}
            />
            <ListField
              items={action.lines}
              onChange={(lines) => set({ ...action, lines })}
              addLabel="+ and"
              add={() => freshLine('send event')}
              item={(line, setLine, k) => (
                <LineFields
                  label={k ? `${label}, line ${k + 1}` : label}
                  line={line}
                  set={setLine}
                  Row={Row}
                  nameHint={nameHint}
                />
              )}
            />
            {moment === 'pressed' && (
              <span className="row small">
                <YesNo
                  label={`${label}: repeats while held`}
                  value={everyMs > 0}
                  onChange={(yes) => set({ ...action, on: { moment, everyMs: yes ? 150 : 0 } })}
                />
                again while held
                {everyMs > 0 && (
                  <NumberField
                    label={`${label}: every`}
                    value={everyMs}
                    min={1}
                    max={10_000}
                    whole
                    unit="ms"
                    onCommit={(ms) => set({ ...action, on: { moment, everyMs: ms } })}
                  />
                )}
              </span>
            )}
          </>
        )
      }}
    />
  )
}

/** Another deed on the same variable. */
const keepTarget = (fresh: Line, old: Line): Line =>
  'variable' in fresh.with && 'variable' in old.with
    ? { ...fresh, with: { ...fresh.with, variable: old.with['variable'] } }
    : fresh

/** Some of sixteen bits; the last that is left stays. */
export function MaskField({ setting, value, onChange }: FieldProps) {
  const mask = Number(value)
  return (
    <span className="row wrap" role="group" aria-label={setting.label} style={{ gap: 2 }}>
      {Array.from({ length: 16 }, (_, bit) => (
        <button
          key={bit}
          className={`button tiny ${mask & (1 << bit) ? 'on' : ''}`}
          aria-pressed={(mask & (1 << bit)) !== 0}
          style={{ padding: '0 4px' }}
          onClick={() => (mask ^ (1 << bit)) !== 0 && onChange(mask ^ (1 << bit))}
        >
          {bit}
        </button>
      ))}
    </span>
  )
}

export function EffectsField({ value, onChange }: FieldProps) {
  const session = useSession()
  const project = useProject()
  return (
    <ListField
      items={value as Effect[]}
      onChange={onChange}
      addLabel="+ Effect"
      add={() => freshEffect}
      item={(effect, set, i) => (
        <span className="row">
          <NumberField
            label={`Effect ${i + 1}: after`}
            value={effect.afterMs}
            min={0}
            max={3_600_000}
            whole
            unit="ms"
            onCommit={(afterMs) => set({ ...effect, afterMs })}
          />
          <VariablePicker
            session={session}
            project={project}
            label={`Effect ${i + 1}: variable`}
            value={effect.variable}
            onChange={(variable) => set({ ...effect, variable })}
          />
          <NumberField label={`Effect ${i + 1}: becomes`} value={effect.value} onCommit={(v) => set({ ...effect, value: v })} />
        </span>
      )}
    />
  )
}
