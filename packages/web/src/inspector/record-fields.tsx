import { noFace } from '@moth-lamp/core/faces'
import { deedKinds, freshDeed, moments, type Action, type Amount, type Deed } from '@moth-lamp/core/rules'
import { freshEffect, type Effect } from '@moth-lamp/core/scripts'
import type { State, StateWhen } from '@moth-lamp/core/widgets'
import type { ReactNode } from 'react'
import { Choice, ColourField, NumberField, TextField, YesNo } from '../parts/fields.tsx'
import { PagePicker, VariablePicker } from '../parts/pickers.tsx'
import { useProject, useSession } from '../shell/context.tsx'
import { FaceField } from './face-field.tsx'
import type { FieldProps } from './field.ts'

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

const deedLabels: Record<Deed['do'], string> = {
  set: 'sets',
  step: 'adds to',
  toggle: 'turns over',
  'one while pressed': 'is 1 while pressed',
  'set bits': 'sets bits of',
  'clear bits': 'clears bits of',
  'toggle bits': 'turns over bits of',
  'go to page': 'opens page',
  'send event': 'sends an event',
}

function AmountField({ label, value, onChange }: { label: string; value: Amount; onChange(value: Amount): void }) {
  const session = useSession()
  const project = useProject()
  const fixed = typeof value === 'number'
  return (
    <span className="row grow">
      {fixed ? (
        <NumberField label={label} value={value} onCommit={onChange} />
      ) : (
        <VariablePicker
          session={session}
          project={project}
          label={label}
          value={value.follows}
          onChange={(id) => onChange({ follows: id as never })}
        />
      )}
      <button
        className="button tiny"
        title={fixed ? 'take the amount from a variable' : 'a fixed amount'}
        onClick={() => onChange(fixed ? { follows: '' } : 1)}
      >
        {fixed ? 'var' : '123'}
      </button>
    </span>
  )
}

function DeedFields({ deed, set, label, nameHint }: { deed: Deed; set(deed: Deed): void; label: string; nameHint: string }) {
  const session = useSession()
  const project = useProject()
  if (deed.do === 'send event') return null
  if (deed.do === 'go to page')
    return (
      <PagePicker
        project={project}
        label={`${label}: page`}
        value={deed.page}
        onChange={(page) => set({ ...deed, page: page as never })}
      />
    )
  return (
    <>
      <VariablePicker
        session={session}
        project={project}
        label={`${label}: variable`}
        value={deed.variable}
        makes={nameHint}
        onChange={(variable) => set({ ...deed, variable: variable as never })}
      />
      {deed.do === 'set' && <AmountField label={`${label}: to`} value={deed.to} onChange={(to) => set({ ...deed, to })} />}
      {deed.do === 'step' && (
        <span className="row">
          <AmountField label={`${label}: amount`} value={deed.by} onChange={(by) => set({ ...deed, by })} />
          <span style={{ width: 106 }}>
            <Choice
              label={`${label}: at the end`}
              value={deed.atEnd}
              options={[
                { value: 'stop', label: 'then stops' },
                { value: 'wrap', label: 'goes round' },
              ]}
              onChange={(atEnd) => set({ ...deed, atEnd: atEnd as 'stop' | 'wrap' })}
            />
          </span>
        </span>
      )}
      {'mask' in deed && (
        <span className="row wrap" role="group" aria-label={`${label}: bits`} style={{ gap: 2 }}>
          {Array.from({ length: 16 }, (_, bit) => (
            <button
              key={bit}
              className={`button tiny ${deed.mask & (1 << bit) ? 'on' : ''}`}
              aria-pressed={(deed.mask & (1 << bit)) !== 0}
              style={{ padding: '0 4px' }}
              onClick={() => (deed.mask ^ (1 << bit)) !== 0 && set({ ...deed, mask: deed.mask ^ (1 << bit) })}
            >
              {bit}
            </button>
          ))}
        </span>
      )}
    </>
  )
}

export function ActionsField({ value, onChange, nameHint }: FieldProps) {
  return (
    <ListField
      items={value as Action[]}
      onChange={onChange}
      addLabel="+ Action"
      add={(): Action => ({ on: 'press', deed: freshDeed('step'), repeatMs: 0 })}
      item={(action, set, i) => {
        const label = `Action ${i + 1}`
        return (
          <>
            <span className="row">
              <Choice
                label={`${label}: when`}
                value={action.on}
                options={moments.map((m) => ({
                  value: m,
                  label: {
                    press: 'on press',
                    'release inside': 'on release',
                    'release outside': 'on sliding off',
                    hold: 'held long',
                  }[m],
                }))}
                onChange={(on) => set({ ...action, on: on as Action['on'] })}
              />
              <Choice
                label={`${label}: does`}
                value={action.deed.do}
                options={deedKinds.map((d) => ({ value: d, label: deedLabels[d] }))}
                onChange={(kind) => set({ ...action, deed: keepTarget(freshDeed(kind as Deed['do']), action.deed) })}
              />
            </span>
            <DeedFields label={label} deed={action.deed} nameHint={nameHint} set={(deed) => set({ ...action, deed })} />
            {action.on === 'press' && (
              <span className="row small">
                <YesNo
                  label={`${label}: repeats while held`}
                  value={action.repeatMs > 0}
                  onChange={(yes) => set({ ...action, repeatMs: yes ? 150 : 0 })}
                />
                again while held
                {action.repeatMs > 0 && (
                  <NumberField
                    label={`${label}: every`}
                    value={action.repeatMs}
                    min={1}
                    max={10_000}
                    whole
                    unit="ms"
                    onCommit={(repeatMs) => set({ ...action, repeatMs })}
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
const keepTarget = (fresh: Deed, old: Deed): Deed =>
  'variable' in fresh && 'variable' in old ? { ...fresh, variable: old.variable } : fresh

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
