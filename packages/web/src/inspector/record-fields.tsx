import { ActionIcon, Button, Group, Stack } from '@mantine/core'
import { X } from 'lucide-react'
import { freshEffect, type Effect } from '@moth-lamp/core/scripts'
import { nextState, type State, type StateWhen } from '@moth-lamp/core/widgets'
import type { ReactNode } from 'react'
import { Choice } from '../controls/choice.tsx'
import { ColourField } from '../controls/colour-field.tsx'
import { NumberField, TextField } from '../controls/fields.tsx'
import { CommandPicker, VariablePicker } from '../controls/pickers.tsx'
import { useProject, useSession } from '../session/context.tsx'
import { BitChoice, ValueField } from '../controls/value-field.tsx'
import type { Holds } from '@moth-lamp/core/variables'
import { holdsOf } from '../parts/lookups.ts'
import { FaceFields } from './face-field.tsx'
import type { FieldProps } from './field.ts'
import form from '../parts/fields.module.css'

const freshWhen: Record<StateWhen['by'], StateWhen> = {
  value: { by: 'value', value: 0 },
  range: { by: 'range', from: 0, to: 10 },
  bit: { by: 'bit', bit: 0, set: true },
}

/** When a state holds, in the words of the variable that it is a state of. */
function WhenFields({
  when,
  onChange,
  label,
  holds,
}: {
  when: StateWhen
  onChange(when: StateWhen): void
  label: string
  holds: Holds | null
}) {
  const number = (key: string, value: number, put: (value: number) => void) => (
    <ValueField holds={holds} label={`${label}: ${key}`} value={value} onChange={(v) => put(Number(v))} />
  )
  return (
    <Group gap={4} wrap="nowrap" grow preventGrowOverflow={false}>
      <Choice
        label={`${label}: condition`}
        value={when.by}
        options={['value', 'range', 'bit']}
        onChange={(by) => onChange(freshWhen[by as StateWhen['by']])}
      />
      {when.by === 'value' && number('value', when.value, (value) => onChange({ ...when, value }))}
      {when.by === 'range' && number('from', when.from, (from) => onChange({ ...when, from }))}
      {when.by === 'range' && number('to', when.to, (to) => onChange({ ...when, to }))}
      {when.by === 'bit' && (
        <>
          <BitChoice holds={holds} label={`${label}: bit`} bit={when.bit} onChange={(bit) => onChange({ ...when, bit })} />
          <Choice
            label={`${label}: bit state`}
            value={when.set ? 'set' : 'clear'}
            options={['set', 'clear']}
            onChange={(is) => onChange({ ...when, set: is === 'set' })}
          />
        </>
      )}
    </Group>
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
        <div className={form.sub} key={i}>
          {item(value, (next) => put(i, next), i)}
          <span className="row">
            <Button
              variant="subtle"
              size="compact-xs"
              className="end"
              aria-label={`Remove number ${i + 1}`}
              onClick={() => put(i, null)}
            >
              Remove
            </Button>
          </span>
        </div>
      ))}
      <Button size="compact-xs" onClick={() => onChange([...items, add()])}>
        {addLabel}
      </Button>
    </div>
  )
}

export function StatesField({ value, onChange, siblings }: FieldProps) {
  const holds = holdsOf(useProject(), siblings['variable'])
  const states = value as State[]
  return (
    <ListField
      items={states}
      onChange={onChange}
      addLabel="+ State"
      add={() => nextState(states, holds)}
      item={(state, set, i) => <StateFields label={`State ${i + 1}`} state={state} holds={holds} set={set} />}
    />
  )
}

/** Fields of a state: its condition, label and face; `remove` adds a button that removes it. */
export function StateFields({
  label,
  state,
  holds,
  set,
  remove,
}: {
  label: string
  state: State
  holds: Holds | null
  set(state: State): void
  remove?: () => void
}) {
  return (
    <Stack gap={5}>
      <WhenFields holds={holds} label={label} when={state.when} onChange={(when) => set({ ...state, when })} />
      <Group gap={4} wrap="nowrap">
        <div className="grow">
          <TextField label={`${label}: meaning`} value={state.meaning} onCommit={(meaning) => set({ ...state, meaning })} />
        </div>
        <ColourField
          swatchOnly
          label={`${label}: text colour`}
          value={state.textColour}
          onCommit={(textColour) => set({ ...state, textColour })}
        />
        {remove && (
          <ActionIcon size={25} variant="subtle" aria-label={`Remove ${label}`} title="Remove" onClick={remove}>
            <X size={14} />
          </ActionIcon>
        )}
      </Group>
      <FaceFields label={`${label}: face`} value={state.face} onChange={(face) => set({ ...state, face })} />
    </Stack>
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
        <Group gap={4} wrap="nowrap" grow>
          <NumberField
            label={`Effect ${i + 1}: delay`}
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
          <ValueField
            holds={holdsOf(project, effect.variable)}
            label={`Effect ${i + 1}: new value`}
            value={effect.value}
            onChange={(v) => set({ ...effect, value: Number(v) })}
          />
          {(effect.command !== '' || project.commandOrder.length > 0) && (
            <CommandPicker
              project={project}
              label={`Effect ${i + 1}: command to send`}
              value={effect.command}
              onChange={(command) => set({ ...effect, command })}
            />
          )}
        </Group>
      )}
    />
  )
}
