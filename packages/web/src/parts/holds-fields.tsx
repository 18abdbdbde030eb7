import { Button, Group } from '@mantine/core'
import type { Variable } from '@moth-lamp/core/project'
import {
  isNumber,
  lettersIn,
  rawLimits,
  unitAfter,
  type Holds,
  type NumberHolds,
  type TextHolds,
} from '@moth-lamp/core/variables'
import type { ReactNode } from 'react'
import { Choice } from '../controls/choice.tsx'
import { Pop } from '../controls/pop.tsx'
import { NumberField, TextField } from '../controls/fields.tsx'
import { LetterField } from './letter-field.tsx'
import form from './fields.module.css'

/** A number with the minus sign of print. */
const minus = (value: number): string => String(value).replace('-', '−')

function scaleWords(holds: Holds): string {
  if (isNumber(holds)) {
    const unit = holds.unit ? unitAfter(holds.unit) : ''
    const part = holds.factor === 1 ? unit : `${unit}, ${holds.factor} per count`
    return `${minus(holds.min)} to ${minus(holds.max)}${part}`
  }
  if (holds.type === 'choice') return holds.choices.map((c) => c.word).join(' · ')
  if (holds.type === 'flags') return holds.names.filter(Boolean).join(' · ') || '16 bits'
  return holds.type === 'text' ? `${holds.bytes} bytes, ${holds.encoding}` : holds.type === 'time' ? 'hh:mm:ss' : 'RGB565'
}

/** Range and scale of a value, behind a button with a short text. */
export function ScaleButton({ variable, onChange }: { variable: Variable; onChange(holds: Holds): void }) {
  const words = scaleWords(variable.holds)
  return (
    <Pop
      position="bottom-start"
      width={400}
      target={
        <Button
          variant="subtle"
          size="compact-xs"
          fullWidth
          justify="flex-start"
          px={6}
          title={words}
          aria-label={`Scale of ${variable.name}: ${words}`}
        >
          <span className="cut">{words}</span>
        </Button>
      }
    >
      <HoldsFields holds={variable.holds} onChange={onChange} />
    </Pop>
  )
}

/** The raw number of a sensor that measures nothing, and what stands there for it. */
function NoneFields({ holds, onChange }: { holds: NumberHolds; onChange(holds: Holds): void }) {
  const { none, ...plain } = holds
  const { min, max } = rawLimits[holds.type]
  return (
    <Group gap={5} wrap="nowrap">
      <TextField
        mono
        label="“No value” raw code"
        value={none ? String(none.raw) : ''}
        placeholder="none"
        check={(text) => {
          const raw = text.trim() === '' ? 0 : Number(text)
          if (!Number.isFinite(raw) || (holds.type !== 'f32' && !Number.isInteger(raw))) return 'Enter a raw number, or nothing.'
          return raw < min || raw > max ? `${min} to ${max}.` : null
        }}
        onCommit={(text) =>
          onChange(text.trim() === '' ? plain : { ...plain, none: { raw: Number(text), word: none?.word ?? 'open' } })
        }
      />
      {none && (
        <TextField
          label="Text for no value"
          value={none.word}
          isName
          check={(text) => (text.trim() && text.trim().length <= 12 ? null : '1 to 12 characters.')}
          onCommit={(word) => onChange({ ...plain, none: { ...none, word } })}
        />
      )}
    </Group>
  )
}

/** A text in another encoding, with those of the letters it says that this one has. */
function inEncoding({ letters, ...holds }: TextHolds, encoding: TextHolds['encoding']): TextHolds {
  const all = lettersIn({ ...holds, encoding })
  const kept = encoding === 'utf-8' ? letters : [...(letters ?? '')].filter((letter) => all.includes(letter)).join('')
  return { ...holds, encoding, ...(kept ? { letters: kept } : {}) }
}

/** The letters of a text that says nothing of them. */
const encodingLetters = { ascii: 'ASCII', 'latin-1': 'Latin-1', 'utf-8': 'Latin-1 and common symbols' }

function HoldsFields({ holds, onChange }: { holds: Holds; onChange(holds: Holds): void }) {
  const line = (name: string, field: ReactNode) => (
    <div className={form.setting} key={name}>
      <label>{name}</label>
      {field}
    </div>
  )
  if (isNumber(holds)) {
    const set = (change: Partial<typeof holds>) => onChange({ ...holds, ...change })
    return (
      <div>
        <p className="small muted">shown = raw × factor + offset</p>
        {line('Factor', <NumberField label="Factor" value={holds.factor} onCommit={(factor) => set({ factor })} />)}
        {line('Offset', <NumberField label="Offset" value={holds.offset} onCommit={(offset) => set({ offset })} />)}
        {line(
          'Decimals',
          <NumberField
            label="Decimals"
            value={holds.decimals}
            min={0}
            max={9}
            whole
            onCommit={(decimals) => set({ decimals })}
          />,
        )}
        {line('Unit', <TextField label="Unit" value={holds.unit} onCommit={(unit) => set({ unit: unit.slice(0, 12) })} />)}
        {line('Minimum', <NumberField label="Minimum value" value={holds.min} onCommit={(min) => set({ min })} />)}
        {line('Maximum', <NumberField label="Maximum value" value={holds.max} onCommit={(max) => set({ max })} />)}
        {line('“No value” code', <NoneFields holds={holds} onChange={onChange} />)}
      </div>
    )
  }
  if (holds.type === 'choice') {
    const text = holds.choices.map((c) => `${c.value} ${c.word}`).join('\n')
    const read = (source: string) =>
      source
        .split('\n')
        .map((l) => /^\s*(\d{1,5})\s+(.+?)\s*$/.exec(l))
        .filter((m) => m !== null)
        .map((m) => ({ ...holds.choices.find((c) => c.value === Number(m[1])), value: Number(m[1]), word: m[2]! }))
    return (
      <div className="stack">
        <p className="small muted">One value and its label per line.</p>
        <TextField
          lines={6}
          mono
          label="Values and labels"
          value={text}
          check={(t) =>
            read(t).length && read(t).length === t.split('\n').filter((l) => l.trim()).length
              ? null
              : 'One value per line: number, space, label.'
          }
          onCommit={(t) => onChange({ ...holds, choices: read(t) })}
        />
      </div>
    )
  }
  if (holds.type === 'flags') {
    const set = (bit: number, name: string) =>
      onChange({
        ...holds,
        names: Array.from({ length: Math.max(bit + 1, holds.names.length) }, (_, i) =>
          i === bit ? name : (holds.names[i] ?? ''),
        ),
      })
    return (
      <div className={form.bits}>
        {Array.from({ length: 16 }, (_, bit) =>
          line(
            `bit ${bit}`,
            <TextField
              label={`Name of bit ${bit}`}
              value={holds.names[bit] ?? ''}
              onCommit={(name) => set(bit, name.trim().replaceAll(/\s+/g, '_').slice(0, 30))}
            />,
          ),
        )}
      </div>
    )
  }
  if (holds.type === 'text')
    return (
      <div>
        {line(
          'Bytes',
          <NumberField
            label="Bytes"
            value={holds.bytes}
            min={1}
            max={240}
            whole
            onCommit={(bytes) => onChange({ ...holds, bytes })}
          />,
        )}
        {line(
          'Encoding',
          <Choice
            label="Encoding"
            value={holds.encoding}
            options={['ascii', 'latin-1', 'utf-8']}
            onChange={(encoding) => onChange(inEncoding(holds, encoding as TextHolds['encoding']))}
          />,
        )}
        <div className={`${form.setting} ${form.tall}`}>
          <label>Allowed characters</label>
          <LetterField
            label="Allowed characters"
            value={holds.letters ?? ''}
            {...(holds.encoding === 'utf-8' ? {} : { among: lettersIn({ ...holds, letters: '' }) })}
            placeholder={`${encodingLetters[holds.encoding]}: fonts keep all of them`}
            onChange={(letters) => {
              const { letters: _, ...plain } = holds
              onChange(letters ? { ...plain, letters } : plain)
            }}
          />
        </div>
      </div>
    )
  return (
    <p className="muted">{holds.type === 'time' ? 'Seconds since midnight, in two words.' : 'RGB565 colour, in one word.'}</p>
  )
}
