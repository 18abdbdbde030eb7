import { Button, Group } from '@mantine/core'
import { formatValue, isNumber, parseValue, usedBits, type FlagsHolds, type Holds, type Value } from '@moth-lamp/core/variables'
import { valueProblem } from './value-words.ts'
import { colourToRgb565 } from '@moth-lamp/core/raster'
import { hexOf565, useColours } from './colours.ts'
import { Choice } from './choice.tsx'
import { ColourField } from './colour-field.tsx'
import { NumberField, TextField } from './fields.tsx'

interface Props {
  /** Data type of the variable; null where none is chosen yet. */
  holds: Holds | null
  value: Value
  onChange(value: Value): void
  label: string
  /** A step, not a value: no range binds it. */
  isStep?: boolean
}

/** A value by its type: a choice by its word, flags by their names, a number with its unit, a text as text. */
export function ValueField({ holds, value, onChange, label, isStep }: Props) {
  if (!holds || isStep)
    return (
      <NumberField label={label} value={Number(value)} unit={holds && isNumber(holds) ? holds.unit : ''} onCommit={onChange} />
    )
  if (holds.type === 'choice') {
    const known = holds.choices.some((c) => c.value === value)
    return (
      <Choice
        label={label}
        value={String(value)}
        options={[
          ...holds.choices.map((c) => ({ value: String(c.value), label: c.word, detail: String(c.value) })),
          ...(known ? [] : [{ value: String(value), label: `no label for ${value}` }]),
        ]}
        onChange={(v) => onChange(Number(v))}
      />
    )
  }
  if (holds.type === 'colour') return <ColourValue label={label} value={Number(value)} onChange={onChange} />
  if (holds.type === 'flags') return <BitChips holds={holds} mask={Number(value)} label={label} onChange={onChange} />
  return (
    <TextField
      mono={holds.type !== 'text'}
      label={label}
      value={formatValue(holds, value, false)}
      right={isNumber(holds) && holds.unit ? holds.unit : undefined}
      {...(isNumber(holds) && holds.unit ? { rightWidth: 10 + 7 * holds.unit.length } : {})}
      check={(text) => valueProblem(holds, text)}
      onCommit={(text) => {
        const read = parseValue(holds, text)
        return read.ok ? onChange(read.value) : false
      }}
    />
  )
}

/** A colour of the glass, picked or written. */
function ColourValue({ label, value, onChange }: { label: string; value: number; onChange(value: number): void }) {
  const hexOf = useColours()
  return <ColourField label={label} value={hexOf565(value)} onCommit={(colour) => onChange(colourToRgb565(hexOf(colour)))} />
}

/** The bits of a word as chips, by their names where they have some; `most` keeps at least one. */
export function BitChips({
  holds,
  mask,
  onChange,
  label,
  atLeastOne,
}: {
  holds: Holds | null
  mask: number
  onChange(mask: number): void
  label: string
  atLeastOne?: boolean
}) {
  const names = holds?.type === 'flags' ? holds.names : []
  const named = names.some(Boolean)
  const bits = Array.from({ length: 16 }, (_, bit) => bit).filter((bit) => !named || names[bit] || mask & (1 << bit))
  return (
    <Group gap={3} role="group" aria-label={label}>
      {bits.map((bit) => (
        <Button
          key={bit}
          size="compact-xs"
          aria-pressed={(mask & (1 << bit)) !== 0}
          title={`bit ${bit}`}
          onClick={() => (!atLeastOne || (mask ^ (1 << bit)) !== 0) && onChange(mask ^ (1 << bit))}
        >
          {names[bit] || bit}
        </Button>
      ))}
      {named && bits.length > 1 && (
        <Button size="compact-xs" variant="subtle" title="all named bits" onClick={() => onChange(usedBits(holds as FlagsHolds))}>
          all
        </Button>
      )}
    </Group>
  )
}

/** One bit of a word by its name where it has one; or, where that is offered, the word as a whole: −1. */
export function BitChoice(props: {
  holds: Holds | null
  bit: number
  onChange(bit: number): void
  label: string
  /** The word as a whole, as a word of the list. */
  whole?: string
}) {
  const { holds, bit, onChange, label, whole } = props
  const nameOf = (k: number) => (holds?.type === 'flags' && holds.names[k]) || `bit ${k}`
  const bits = Array.from({ length: 16 }, (_, k) => ({ value: String(k), label: nameOf(k) }))
  return (
    <Choice
      label={label}
      value={String(bit)}
      options={whole ? [{ value: '-1', label: whole }, ...bits] : bits}
      onChange={(k) => onChange(Number(k))}
    />
  )
}

/** A value as its words: what an exchange writes down. */
export function WordsField({
  holds,
  words,
  onChange,
  label,
}: {
  holds: Holds
  words: string
  onChange(words: string): void
  label: string
}) {
  const read = parseValue(holds, words)
  if (holds.type === 'choice' || holds.type === 'flags')
    return (
      <ValueField
        holds={holds}
        value={read.ok ? read.value : 0}
        label={label}
        onChange={(value) => onChange(formatValue(holds, value, false))}
      />
    )
  return <TextField mono label={label} value={words} check={(text) => valueProblem(holds, text)} onCommit={onChange} />
}
