import { Checkbox, Textarea, TextInput, Tooltip } from '@mantine/core'
import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react'
import { arithmetic, changeOf } from './arithmetic.ts'
import { goHome } from './focus.ts'
import { useInSentence } from './sentence.tsx'
import sentence from './sentence.module.css'

interface TextProps {
  value: string
  onCommit(value: string): boolean | void
  label: string
  /** Why a text cannot be taken; null when it can. */
  check?: ((value: string) => string | null) | undefined
  mono?: boolean
  placeholder?: string | undefined
  lines?: number
  disabled?: boolean | undefined
  /** A name: blanks at its ends are left away. */
  isName?: boolean
  left?: ReactNode
  right?: ReactNode
  rightWidth?: number
  onKeyDown?(e: KeyboardEvent<HTMLInputElement>): void
  /** What may stand there: told above the field while it is in hand. */
  note?: (() => string) | undefined
}

/**
 * Text edited in place: taken on Enter or on leaving, put back on Escape, and either gives the focus back to where the work
 * is. What is wrong stays, and says why.
 */
export function TextField(props: TextProps) {
  const { value, onCommit, label, check, mono, placeholder, lines, disabled, isName, left, right, rightWidth, note } = props
  const inSentence = useInSentence()
  // A draft belongs to the value it was begun on: when that changes from outside, it is gone, but never from under the hands.
  const [typed, setTyped] = useState<{ text: string; on: string; wrong: string | null } | null>(null)
  const [inHand, setInHand] = useState(false)
  const now = inHand || typed?.on === value ? typed : null
  const draft = now?.text ?? null
  const wrong = now?.wrong ?? null
  /** Taken or given up by a key: the field that loses the focus then has nothing more to say. */
  const done = useRef(false)
  /** Whether nothing is left to say. */
  const commit = (): boolean => {
    if (draft === null || done.current) return true
    const text = isName ? draft.trim() : draft
    const problem = check?.(text) ?? null
    if (problem) return (setTyped({ text: draft, on: value, wrong: problem }), false)
    if (text !== value && onCommit(text) === false) return false
    setTyped(null)
    return true
  }
  const back = (e: KeyboardEvent<HTMLElement>) => {
    e.stopPropagation()
    setTyped(null)
    leave(e.currentTarget)
  }
  const leave = (field: HTMLElement) => {
    done.current = true
    goHome(field)
    done.current = false
  }
  const shown = draft ?? value
  const shared = {
    value: shown,
    'aria-label': label,
    error: wrong && <span role="alert">{wrong}</span>,
    placeholder,
    disabled: disabled ?? false,
    onBlur: () => (setInHand(false), commit()),
    leftSection: left,
    ...(left ? { leftSectionWidth: typeof left === 'string' ? 17 : 26 } : {}),
    rightSection: inSentence ? undefined : right,
    rightSectionWidth: rightWidth,
    classNames: mono ? { input: 'mono' } : {},
    onChange: (e: { currentTarget: { value: string } }) => setTyped({ text: e.currentTarget.value, on: value, wrong: null }),
  }
  if (lines)
    return <Textarea {...shared} rows={lines} onFocus={() => setInHand(true)} onKeyDown={(e) => e.key === 'Escape' && back(e)} />
  const field = (
    <TextInput
      {...shared}
      {...(inSentence
        ? {
            classNames: { input: `${sentence.input} ${mono ? 'mono' : ''}` },
            leftSection: undefined,
            size: 'xs',
            styles: { input: { width: `${Math.max(2, shown.length + 1)}ch` } },
          }
        : {})}
      onFocus={(e) => (setInHand(true), e.currentTarget.select())}
      onKeyDown={(e) => {
        props.onKeyDown?.(e)
        if (e.key === 'Enter' && commit()) leave(e.currentTarget)
        if (e.key === 'Escape') back(e)
      }}
    />
  )
  return note ? (
    <Tooltip label={inHand ? note() : ''} opened={inHand && !wrong} position="top-start" offset={3} withinPortal>
      {field}
    </Tooltip>
  ) : (
    field
  )
}

interface NumberProps {
  value: number | null
  onCommit(value: number): boolean | void
  label: string
  min?: number | undefined
  max?: number | undefined
  step?: number | undefined
  whole?: boolean
  unit?: string | undefined
  disabled?: boolean
  /** In small before it: what of several the number is. */
  left?: string
  /** The word for 0. */
  zero?: string | undefined
  /** Why its limits are what they are, or what else is to be known of it: told with them. */
  why?: string | undefined
  /** There are several, each with a value of its own: `+10` is done to each, and told here; the limits are the caller's. */
  onChangeEach?: (by: (value: number) => number) => boolean | void
}

/** A number edited in place: takes arithmetic (`3*40+8`), arrow keys step it. `null` shows as mixed. */
export function NumberField(props: NumberProps) {
  const { value, onCommit, label, min, max, step = 1, whole, unit, disabled, left, zero, onChangeEach } = props
  const each = (text: string) => {
    const change = changeOf(text, value === null)
    return onChangeEach && change && 'by' in change ? change.by : null
  }
  const read = (text: string): { ok: number } | { why: string } => {
    const change = text.trim() === zero ? { set: 0 } : changeOf(text, false)
    if (change === null) return { why: 'That is no number.' }
    const found = 'set' in change ? change.set : value === null ? NaN : change.by(value)
    if (!Number.isFinite(found)) return { why: 'That is no number.' }
    const rounded = whole ? Math.round(found) : found
    if (min !== undefined && rounded < min) return { why: `At least ${min}.` }
    if (max !== undefined && rounded > max) return { why: `At most ${max}.` }
    return { ok: rounded }
  }
  const stepBy = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return
    const now = e.currentTarget.value === zero ? 0 : arithmetic(e.currentTarget.value)
    if (now === null) return
    e.preventDefault()
    const next = read(String(Math.round((now + (e.key === 'ArrowUp' ? 1 : -1) * step * (e.shiftKey ? 10 : 1)) * 1e6) / 1e6))
    if ('ok' in next) onCommit(next.ok)
  }
  return (
    <TextField
      mono
      label={label}
      value={value === null ? '' : value === 0 && zero ? zero : String(value)}
      placeholder={value !== null ? undefined : left ? '≠' : 'mixed'}
      disabled={disabled}
      left={left}
      right={unit}
      note={min === undefined && max === undefined && !props.why ? undefined : () => limitsOf(props)}
      {...(unit ? { rightWidth: 10 + 7 * unit.length } : {})}
      check={(text) => {
        if (each(text)) return null
        const found = read(text)
        return 'why' in found ? found.why : null
      }}
      onCommit={(text) => {
        const by = each(text)
        if (by) return onChangeEach!(by)
        const found = read(text)
        return 'ok' in found ? onCommit(found.ok) : false
      }}
      onKeyDown={stepBy}
    />
  )
}

/** The limits of a number in words: `0 to 400 px, 0: as it is; the glass is 480 px wide`. */
export function limitsOf({ min, max, unit, zero, why }: Pick<NumberProps, 'min' | 'max' | 'unit' | 'zero' | 'why'>): string {
  const told = (n: number) => n.toLocaleString('en-GB', { maximumFractionDigits: 9 }).replaceAll(',', ' ')
  const limits =
    min !== undefined && max !== undefined
      ? `${told(min)} to ${told(max)}`
      : min !== undefined
        ? `${told(min)} or more`
        : max !== undefined
          ? `${told(max)} or less`
          : ''
  const withUnit = limits && unit ? `${limits} ${unit}` : limits
  return [[withUnit, zero && `0: ${zero}`].filter(Boolean).join(', '), why].filter(Boolean).join('; ')
}

/** Yes or no; null shows as mixed. `words` stand beside the box. */
export function YesNo({
  value,
  onChange,
  label,
  words,
}: {
  value: boolean | null
  onChange(value: boolean): void
  label: string
  words?: string
}) {
  return (
    <Checkbox
      aria-label={label}
      label={words}
      checked={value === true}
      indeterminate={value === null}
      onChange={(e) => onChange(e.currentTarget.checked)}
    />
  )
}
