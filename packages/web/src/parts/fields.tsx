import { useId, useRef, useState, type ReactNode } from 'react'
import { arithmetic } from './arithmetic.ts'

interface TextProps {
  value: string
  onCommit(value: string): boolean | void
  label: string
  /** Why a text cannot be taken; null when it can. */
  check?(value: string): string | null
  mono?: boolean
  placeholder?: string
  lines?: number
  disabled?: boolean
  /** A name: blanks at its ends are left away. */
  isName?: boolean
}

/** Text edited in place: taken on Enter or on leaving, put back on Escape; what is wrong stays, and says why. */
export function TextField({ value, onCommit, label, check, mono, placeholder, lines, disabled, isName }: TextProps) {
  // A draft belongs to the value it was begun on: when that changes from outside, the draft is gone.
  const [typed, setTyped] = useState<{ text: string; on: string; wrong: string | null } | null>(null)
  const wrongId = useId()
  const now = typed?.on === value ? typed : null
  const draft = now?.text ?? null
  const wrong = now?.wrong ?? null
  const setDraft = (text: string) => setTyped({ text, on: value, wrong: null })
  const back = () => setTyped(null)
  const commit = () => {
    if (draft === null) return
    const text = isName ? draft.trim() : draft
    const problem = check?.(text) ?? null
    if (problem) return setTyped({ text: draft, on: value, wrong: problem })
    if (text !== value && onCommit(text) === false) return
    setTyped(null)
  }
  const shared = {
    className: `field ${mono ? 'mono' : ''} ${wrong ? 'wrong' : ''}`,
    value: draft ?? value,
    'aria-label': label,
    'aria-invalid': wrong ? true : undefined,
    'aria-describedby': wrong ? wrongId : undefined,
    placeholder,
    disabled,
    onBlur: commit,
  }
  return (
    <>
      {lines ? (
        <textarea
          {...shared}
          rows={lines}
          onChange={(e) => setDraft(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && back()}
        />
      ) : (
        <input
          {...shared}
          onChange={(e) => setDraft(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') commit()
            if (e.key === 'Escape') back()
          }}
        />
      )}
      {wrong && (
        <span id={wrongId} className="wrong-words" role="alert">
          {wrong}
        </span>
      )}
    </>
  )
}

interface NumberProps {
  value: number | null
  onCommit(value: number): boolean | void
  label: string
  min?: number
  max?: number
  step?: number
  whole?: boolean
  unit?: string
  disabled?: boolean
}

/** A number edited in place: takes arithmetic (`3*40+8`), arrow keys step it. `null` shows as mixed. */
export function NumberField({ value, onCommit, label, min, max, step = 1, whole, unit, disabled }: NumberProps) {
  const read = (text: string): { ok: number } | { why: string } => {
    const found = arithmetic(text)
    if (found === null) return { why: 'That is no number.' }
    const rounded = whole ? Math.round(found) : found
    if (min !== undefined && rounded < min) return { why: `At least ${min}.` }
    if (max !== undefined && rounded > max) return { why: `At most ${max}.` }
    return { ok: rounded }
  }
  const field = (
    <span
      className="grow"
      onKeyDown={(e) => {
        if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return
        const input = e.target as HTMLInputElement
        const now = arithmetic(input.value)
        if (now === null) return
        e.preventDefault()
        const next = read(String(Math.round((now + (e.key === 'ArrowUp' ? 1 : -1) * step * (e.shiftKey ? 10 : 1)) * 1e6) / 1e6))
        if ('ok' in next) onCommit(next.ok)
      }}
    >
      <TextField
        mono
        label={label}
        value={value === null ? '' : String(value)}
        placeholder={value === null ? 'mixed' : undefined}
        disabled={disabled}
        check={(text) => {
          const found = read(text)
          return 'why' in found ? found.why : null
        }}
        onCommit={(text) => {
          const found = read(text)
          return 'ok' in found ? onCommit(found.ok) : false
        }}
      />
    </span>
  )
  return unit ? (
    <span className="with-unit grow">
      {field}
      <span className="muted">{unit}</span>
    </span>
  ) : (
    field
  )
}

interface ChoiceProps {
  value: string
  onChange(value: string): void
  label: string
  options: readonly (string | { value: string; label: string })[]
  disabled?: boolean
  children?: ReactNode
}

export function Choice({ value, onChange, label, options, disabled, children }: ChoiceProps) {
  return (
    <select className="field" aria-label={label} value={value} disabled={disabled} onChange={(e) => onChange(e.target.value)}>
      {options.map((o) =>
        typeof o === 'string' ? (
          <option key={o}>{o}</option>
        ) : (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ),
      )}
      {children}
    </select>
  )
}

/** A colour as a swatch and its digits; with `optional` it may be empty. */
export function ColourField({
  value,
  onCommit,
  label,
  optional,
}: {
  value: string
  onCommit(value: string): void
  label: string
  optional?: boolean
}) {
  const timer = useRef(0)
  return (
    <span className="row grow" style={{ gap: 4 }}>
      <input
        type="color"
        className="swatch"
        aria-label={`${label}, picked`}
        value={/^#[0-9a-f]{6}$/i.test(value) ? value : '#000000'}
        onChange={(e) => {
          const picked = e.target.value
          clearTimeout(timer.current)
          timer.current = window.setTimeout(() => onCommit(picked), 150)
        }}
      />
      <TextField
        mono
        label={label}
        value={value}
        placeholder={optional ? 'none' : undefined}
        check={(text) => (/^#[0-9a-f]{6}$/i.test(text) || (optional && text === '') ? null : 'A colour is written #rrggbb.')}
        onCommit={onCommit}
      />
    </span>
  )
}

export function YesNo({ value, onChange, label }: { value: boolean | null; onChange(value: boolean): void; label: string }) {
  return (
    <input
      type="checkbox"
      aria-label={label}
      checked={value === true}
      ref={(el) => {
        if (el) el.indeterminate = value === null
      }}
      onChange={(e) => onChange(e.target.checked)}
    />
  )
}
