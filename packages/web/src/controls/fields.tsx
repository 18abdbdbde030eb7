import { unitAfter } from '@moth-lamp/core/variables'
import { Checkbox, Textarea, TextInput, Tooltip } from '@mantine/core'
import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
} from 'react'
import { holdDraft, sayLost } from '../session/drafts.ts'
import { arithmetic, changeOf } from './arithmetic.ts'
import { goHome } from './focus.ts'
import { useInPopover } from './pop.tsx'
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
  /** Other keys and their work; `giveUp` lets go of what is typed, since something else was taken. */
  onKeyDown?(e: KeyboardEvent<HTMLInputElement>, giveUp: () => void): void
  /** Allowed values: shown above the field while it is edited. */
  note?: (() => string) | undefined
}

/** The text of a field that is typed and not taken yet. */
interface Typed {
  text: string
  /** The value that it was begun on: when that changes from outside, it is gone, but never from under the hands. */
  on: string
  wrong: string | null
}

/**
 * The draft of a field: what is typed is kept here until it is taken or given up, and taken for the record it was typed for,
 * whatever becomes of the field (`session/drafts`).
 */
function useDraft({ value, onCommit, label, check, isName }: TextProps) {
  const [typed, setTyped] = useState<Typed | null>(null)
  const [inHand, setInHand] = useState(false)
  /** The same as `typed`, at once; and what of the newest rendering it needs. */
  const pending = useRef<Typed | null>(null)
  const release = useRef<() => void>(() => undefined)
  const newest = useRef({ value, onCommit, label, check, isName })
  const box = useRef<HTMLInputElement & HTMLTextAreaElement>(null)
  useLayoutEffect(() => void (newest.current = { value, onCommit, label, check, isName }))
  const put = (next: Typed | null) => {
    if (next && !pending.current)
      release.current = holdDraft({
        holds: (target) => box.current?.contains(target) ?? false,
        take: (leaving) => void take(leaving),
      })
    if (!next) release.current()
    pending.current = next
    setTyped(next)
  }
  /** Whether nothing is left to say. */
  const take = (leaving = false): boolean => {
    const draft = pending.current
    if (!draft) return true
    const { value, onCommit, label, check, isName } = newest.current
    const text = isName ? draft.text.trim() : draft.text
    const problem = check?.(text) ?? null
    if (problem && leaving) sayLost(label, draft.text, problem)
    else if (problem) return (put({ ...draft, wrong: problem }), false)
    // Taken once: the edit itself may have all that is typed taken, since the record it is for may be gone.
    put(null)
    if (problem || text === value || onCommit(text) !== false) return true
    if (leaving) sayLost(label, draft.text, 'the target was deleted or does not accept it')
    else put(draft)
    return leaving
  }
  // Another value from outside, while nobody types: what was wrong there is of the past.
  useLayoutEffect(() => {
    if (!inHand && pending.current && pending.current.on !== value) put(null)
  })
  // The field goes, and what was typed in it is taken as it goes.
  useEffect(() => () => void (take(true), release.current()), []) // eslint-disable-line react-hooks/exhaustive-deps
  const now = inHand || typed?.on === value ? typed : null
  return {
    box,
    text: now?.text ?? value,
    wrong: now?.wrong ?? null,
    inHand,
    enter: () => setInHand(true),
    leave: () => (setInHand(false), void take()),
    type: (text: string) => put({ text, on: pending.current?.on ?? value, wrong: null }),
    take,
    giveUp: () => put(null),
    isTyped: () => pending.current !== null,
  }
}

/**
 * A field with a way of its own to take its text: once, when it is asked to, before something else is shown, when the window is
 * left, or when the field goes. `giveUp` says that nothing is to be taken any more.
 */
export function useTaken<T extends HTMLElement>(field: RefObject<T | null>, take: (box: T) => void) {
  const newest = useRef(take)
  const isOver = useRef(false)
  useLayoutEffect(() => void (newest.current = take))
  const once = useCallback((box: T | null) => {
    if (isOver.current || !box) return
    isOver.current = true
    newest.current(box)
  }, [])
  useEffect(() => {
    const box = field.current
    const release = holdDraft({ holds: (target) => box?.contains(target) ?? false, take: () => once(box) })
    return () => {
      release()
      if (!box?.isConnected) once(box)
    }
  }, [field, once])
  return { take: () => once(field.current), giveUp: () => void (isOver.current = true) }
}

/**
 * Text edited in place: taken on Enter or on leaving, put back on Escape, and either gives the focus back to where the work
 * is. A wrong value stays, and says why.
 */
export function TextField(props: TextProps) {
  const { label, mono, placeholder, lines, disabled, left, right, rightWidth, note } = props
  const inSentence = useInSentence()
  const draft = useDraft(props)
  const { text, wrong } = draft
  const inPopover = useInPopover()
  const back = (e: KeyboardEvent<HTMLElement>) => {
    const typed = draft.isTyped()
    draft.giveUp()
    // In a popover the first Escape is for what is typed, the next one closes it.
    if (inPopover && !typed) return
    e.stopPropagation()
    goHome(e.currentTarget)
  }
  const shared = {
    ref: draft.box,
    value: text,
    'aria-label': label,
    error: wrong && <span role="alert">{wrong}</span>,
    placeholder,
    disabled: disabled ?? false,
    onBlur: draft.leave,
    leftSection: left,
    ...(left ? { leftSectionWidth: typeof left === 'string' ? 17 : 26 } : {}),
    rightSection: inSentence ? undefined : right,
    rightSectionWidth: rightWidth,
    classNames: mono ? { input: 'mono' } : {},
    onChange: (e: { currentTarget: { value: string } }) => draft.type(e.currentTarget.value),
  }
  if (lines) return <Textarea {...shared} rows={lines} onFocus={draft.enter} onKeyDown={(e) => e.key === 'Escape' && back(e)} />
  const field = (
    <TextInput
      {...shared}
      {...(inSentence
        ? {
            classNames: { input: `${sentence.input} ${mono ? 'mono' : ''}` },
            leftSection: undefined,
            size: 'xs',
            styles: { input: { width: `${Math.max(2, (text || (placeholder ?? '')).length + 1)}ch` } },
          }
        : {})}
      // Words beside the field are a part of it: a click on them is for it.
      leftSectionPointerEvents={typeof left === 'string' ? 'none' : 'all'}
      rightSectionPointerEvents={typeof right === 'string' ? 'none' : 'all'}
      onFocus={(e) => (draft.enter(), e.currentTarget.select())}
      onKeyDown={(e) => {
        props.onKeyDown?.(e, draft.giveUp)
        if (e.key === 'Enter' && draft.take()) goHome(e.currentTarget)
        if (e.key === 'Escape') back(e)
      }}
    />
  )
  return note ? (
    <Tooltip label={draft.inHand ? note() : ''} opened={draft.inHand && !wrong} position="top-start" offset={3} withinPortal>
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
    if (change === null) return { why: 'Not a number.' }
    const found = 'set' in change ? change.set : value === null ? NaN : change.by(value)
    if (!Number.isFinite(found)) return { why: 'Not a number.' }
    const rounded = whole ? Math.round(found) : found
    if (min !== undefined && rounded < min) return { why: `Minimum ${min}.` }
    if (max !== undefined && rounded > max) return { why: `Maximum ${max}.` }
    return { ok: rounded }
  }
  const stepBy = (e: KeyboardEvent<HTMLInputElement>, giveUp: () => void) => {
    if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return
    const now = e.currentTarget.value === zero ? 0 : arithmetic(e.currentTarget.value)
    if (now === null) return
    e.preventDefault()
    const next = read(String(Math.round((now + (e.key === 'ArrowUp' ? 1 : -1) * step * (e.shiftKey ? 10 : 1)) * 1e6) / 1e6))
    if ('ok' in next && onCommit(next.ok) !== false) giveUp()
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
  const withUnit = limits && unit ? `${limits}${unitAfter(unit)}` : limits
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
