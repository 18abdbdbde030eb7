import { ActionIcon, Button, CopyButton, TextInput } from '@mantine/core'
import { X } from 'lucide-react'
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react'
import { calculate, scaleRows, type CalculatorGroup } from '@moth-lamp/core/calculator'
import { Choice } from '../controls/choice.tsx'
import { onCalculatorWanted } from '../controls/calculator.ts'
import { useProject, useSession } from '../session/context.tsx'
import styles from './calculator.module.css'

/** The field that the calculator was called from, and the stretch of its text that was selected. */
interface Origin {
  field: HTMLInputElement | HTMLTextAreaElement | null
  from: number
  to: number
  text: string
  selected: string
  /** Where the calculator goes, px of the window. */
  left: number
  place: { top?: number; bottom?: number; maxHeight: number }
}

const isField = (e: Element | null): e is HTMLInputElement | HTMLTextAreaElement =>
  e instanceof HTMLTextAreaElement || (e instanceof HTMLInputElement && !['checkbox', 'radio', 'range', 'file'].includes(e.type))

const width = 430
/** Room that it needs below a field to stand there, px. */
const least = 380

/** The origin now: the field with the focus and its selection, or what is selected on the page. */
function originNow(): Origin {
  const active = document.activeElement
  const field = isField(active) && !active.readOnly ? active : null
  const box = (field ?? active)?.getBoundingClientRect()
  const isPlaced = box !== undefined && box.width > 0 && box.width < window.innerWidth * 0.8
  const left = Math.max(8, Math.min((isPlaced ? box.left : window.innerWidth - width - 20) || 0, window.innerWidth - width - 8))
  // Below the field, or above it where there is more room: what one works on stays in sight.
  const [above, below] = isPlaced ? [box.top - 6, box.bottom + 6] : [0, 60]
  const isAbove = window.innerHeight - below < least && above > window.innerHeight - below
  const place = isAbove
    ? { bottom: window.innerHeight - above, maxHeight: above - 8 }
    : { top: below, maxHeight: window.innerHeight - below - 8 }
  const [from, to] = field ? [field.selectionStart ?? 0, field.selectionEnd ?? 0] : [0, 0]
  const selected = field ? field.value.slice(from, to) : (window.getSelection()?.toString() ?? '')
  return { field, from, to, text: field?.value ?? '', selected: selected.trim().slice(0, 4000), left, place }
}

/** Puts a text where the caret was, as if it had been typed there; false: the field is gone. */
function putAt({ field, from, to, text }: Origin, put: string): boolean {
  if (!field?.isConnected) return false
  field.focus({ preventScroll: true })
  // A field that took another text in the meantime has all of it replaced.
  const [begin, end] = field.value === text ? [from, to] : [0, field.value.length]
  const next = field.value.slice(0, begin) + put + field.value.slice(end)
  const prototype = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype
  Object.getOwnPropertyDescriptor(prototype, 'value')!.set!.call(field, next)
  field.dispatchEvent(new Event('input', { bubbles: true }))
  field.setSelectionRange(begin + put.length, begin + put.length)
  return true
}

/** The calculator: it opens with Ctrl and the point wherever one is, filled from what is selected. */
export function CalculatorPop() {
  const [origin, setOrigin] = useState<Origin | null>(null)
  useEffect(() => {
    const open = () => setOrigin(originNow())
    // In a window of another size it stands where it can be seen whole.
    const onResize = () => setOrigin((now) => now && { ...now, left: 8, place: { top: 8, maxHeight: window.innerHeight - 16 } })
    window.addEventListener('resize', onResize)
    const onKey = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || e.key !== '.') return
      e.preventDefault()
      open()
    }
    document.addEventListener('keydown', onKey)
    const gone = onCalculatorWanted(open)
    return () => {
      document.removeEventListener('keydown', onKey)
      window.removeEventListener('resize', onResize)
      gone()
    }
  }, [])
  if (!origin) return null
  return <Calculator key={`${origin.from} ${origin.to} ${origin.selected}`} origin={origin} onClose={() => setOrigin(null)} />
}

function Calculator({ origin, onClose }: { origin: Origin; onClose(): void }) {
  const project = useProject()
  const session = useSession()
  const box = useRef<HTMLDivElement>(null)
  const [text, setText] = useState(origin.selected)
  const [scale, setScale] = useState('')
  useLayoutEffect(() => box.current?.querySelector('input')?.select(), [])
  const variable = project.variables[scale as keyof typeof project.variables]
  const order = project.panel.order
  const groups = useMemo((): readonly CalculatorGroup[] => {
    const rows = variable ? scaleRows(variable.holds, text, order) : []
    return [...(rows.length ? [{ label: variable!.name, rows }] : []), ...calculate(text).groups]
  }, [text, variable, order])
  const copyInstead = (put: string) => {
    void navigator.clipboard.writeText(put).then(
      () => session.say('The field was closed meanwhile. The value was copied.'),
      () => session.say(`The field was closed meanwhile: ${put}`, 'bad'),
    )
  }
  const close = () => {
    onClose()
    if (origin.field?.isConnected) origin.field.focus({ preventScroll: true })
  }
  return (
    <div
      ref={box}
      className={styles.box}
      role="dialog"
      aria-label="Calculator"
      style={{ left: origin.left, ...origin.place }}
      onKeyDown={(e) => {
        // Keys are the calculator's while it has the focus.
        if (!e.ctrlKey && !e.metaKey) e.stopPropagation()
        if (e.key === 'Escape' && !e.defaultPrevented) close()
      }}
    >
      <div className={styles.head}>
        <TextInput
          aria-label="Number, bytes or text"
          placeholder='500 · 0x1F4 · 7E 51 · "text"'
          value={text}
          classNames={{ input: 'mono' }}
          onChange={(e) => setText(e.currentTarget.value)}
        />
        <Choice
          label="Scale of"
          value={scale}
          searchable
          options={[
            { value: '', label: 'no scale' },
            ...project.variableOrder.map((id) => ({ value: id as string, label: project.variables[id]!.name })),
          ]}
          onChange={setScale}
        />
        <ActionIcon variant="subtle" size={22} aria-label="Close the calculator" onClick={close}>
          <X size={14} />
        </ActionIcon>
      </div>
      <div className={styles.body} tabIndex={0} role="region" aria-label="In other spellings">
        {!groups.length && (
          <p className="muted small">
            {text.trim() ? 'Neither a number nor bytes.' : 'Type a number, bytes in hex, or a text in quotes.'}
          </p>
        )}
        {groups.map(({ label, rows }) => (
          <section key={label} aria-label={label}>
            <h3>{label}</h3>
            <dl className={styles.rows}>
              {rows.map((one, k) => (
                <div key={k} className={styles.row}>
                  <dt>{one.label}</dt>
                  <dd>{one.text}</dd>
                  <dd>
                    {origin.field ? (
                      <Button
                        size="compact-xs"
                        aria-label={`Put ${one.text}`}
                        onClick={() => {
                          onClose()
                          if (!putAt(origin, one.text)) copyInstead(one.text)
                        }}
                      >
                        Put
                      </Button>
                    ) : (
                      <CopyButton value={one.text}>
                        {({ copied, copy }) => (
                          <Button size="compact-xs" aria-label={`Copy ${one.text}`} onClick={copy}>
                            {copied ? 'Copied' : 'Copy'}
                          </Button>
                        )}
                      </CopyButton>
                    )}
                  </dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </div>
  )
}
