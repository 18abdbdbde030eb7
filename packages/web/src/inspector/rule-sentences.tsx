import { ActionIcon, Button, Group } from '@mantine/core'
import type { FormField } from '@moth-lamp/core/describe'
import { actionKind, actionKinds, freshLine, momentTexts, type Rule, type Line, type Moment } from '@moth-lamp/core/rules'
import { useEffect, useRef } from 'react'
import { FastForward, Plus, RotateCw, X } from 'lucide-react'
import { focusIn } from '../controls/focus.ts'
import { Choice } from '../controls/choice.tsx'
import { NumberField } from '../controls/fields.tsx'
import { Sentence } from '../controls/sentence.tsx'
import type { NestingProps } from './field.ts'
import styles from './stops/stops.module.css'

/** Actions as sentences whose words are edited in place. */
export function RulesField({ setting, value, onChange, nameHint, siblings, Field }: NestingProps) {
  const rules = value as Rule[]
  const moments = (setting.type.choices ?? []) as readonly Moment[]
  const list = useRef<HTMLDivElement>(null)
  /** A sentence was added by its button: its first word takes the focus. */
  const added = useRef(false)
  useEffect(() => {
    if (!added.current) return
    added.current = false
    focusIn(list.current, `Action ${rules.length}: when`)
  }, [rules.length])
  return (
    <div ref={list}>
      {rules.map((rule, i) => (
        <RuleSentence
          key={i}
          label={`Action ${i + 1}`}
          rule={rule}
          moments={moments}
          nameHint={nameHint}
          Field={Field}
          set={(next) => onChange(next ? rules.with(i, next) : rules.filter((_, k) => k !== i))}
        />
      ))}
      <Button
        size="compact-xs"
        onClick={() => {
          added.current = true
          onChange([...rules, { on: { moment: moments[0]!, everyMs: 0 }, lines: [firstLine(siblings['variable'])] }])
        }}
      >
        + Action
      </Button>
    </div>
  )
}

interface SentenceProps {
  label: string
  rule: Rule
  moments: readonly Moment[]
  nameHint: string
  Field: NestingProps['Field']
  set(rule: Rule | null): void
}

function RuleSentence({ label, rule, moments, nameHint, set, Field }: SentenceProps) {
  const { moment, everyMs, faster = false } = rule.on
  const setLine = (k: number, line: Line | null) => {
    const lines = line ? rule.lines.with(k, line) : rule.lines.filter((_, n) => n !== k)
    set(lines.length ? { ...rule, lines } : null)
  }
  return (
    <Sentence className={styles.sentence}>
      <Choice
        label={`${label}: when`}
        value={moment}
        options={moments.map((m) => ({ value: m, label: momentTexts[m] }))}
        onChange={(m) =>
          set({
            ...rule,
            on: { moment: m as typeof moment, everyMs: m === 'pressed' ? everyMs : m === 'time' ? everyMs || 1000 : 0 },
          })
        }
      />
      {moment === 'time' && (
        <>
          <span>every</span>
          <NumberField
            label={`${label}: every`}
            value={everyMs}
            min={20}
            max={86_400_000}
            whole
            onCommit={(ms) => set({ ...rule, on: { moment, everyMs: ms } })}
          />
          <span>ms</span>
        </>
      )}
      {rule.lines.map((line, k) => (
        <LineWords
          key={k}
          label={k ? `${label}, line ${k + 1}` : label}
          line={line}
          moment={moment}
          nameHint={nameHint}
          Field={Field}
          set={(next) => setLine(k, next)}
        />
      ))}
      {moment === 'pressed' && everyMs > 0 && (
        <>
          <span>· repeat every</span>
          <NumberField
            label={`${label}: every`}
            value={everyMs}
            min={1}
            max={10_000}
            whole
            onCommit={(ms) => set({ ...rule, on: { ...rule.on, everyMs: ms } })}
          />
          <span>ms while pressed</span>
          <ActionIcon
            size={21}
            variant={faster ? 'filled' : 'subtle'}
            aria-pressed={faster}
            aria-label={`${label}: accelerate`}
            title="accelerate while pressed"
            onClick={() => set({ ...rule, on: { moment, everyMs, ...(faster ? {} : { faster: true }) } })}
          >
            <FastForward size={12} />
          </ActionIcon>
        </>
      )}
      <Group gap={2} ml="auto" wrap="nowrap">
        {moment === 'pressed' && (
          <ActionIcon
            size={21}
            variant={everyMs > 0 ? 'filled' : 'subtle'}
            aria-pressed={everyMs > 0}
            aria-label={`${label}: repeat while pressed`}
            title="repeat while pressed"
            onClick={() => set({ ...rule, on: { moment, everyMs: everyMs ? 0 : 150 } })}
          >
            <RotateCw size={12} />
          </ActionIcon>
        )}
        <ActionIcon
          size={21}
          variant="subtle"
          aria-label={`${label}: and`}
          title="add a step"
          onClick={() => set({ ...rule, lines: [...rule.lines, freshLine('send event', moment)] })}
        >
          <Plus size={13} />
        </ActionIcon>
        <ActionIcon size={21} variant="subtle" aria-label={`Remove ${label}`} title="Remove" onClick={() => set(null)}>
          <X size={13} />
        </ActionIcon>
      </Group>
    </Sentence>
  )
}

interface LineProps {
  label: string
  line: Line
  moment: Moment
  nameHint: string
  Field: NestingProps['Field']
  set(line: Line | null): void
}

function LineWords({ label, line, moment, nameHint, set, Field }: LineProps) {
  const fields = (actionKind(line.action)?.settings.list ?? []) as readonly FormField[]
  return (
    <>
      <span>·</span>
      <Choice
        label={`${label}: does`}
        value={line.action}
        options={[...actionKinds().map((kind) => ({ value: kind.action, label: kind.label })), { value: '', label: 'remove' }]}
        onChange={(action) => set(action ? ({ ...keepTarget(freshLine(action, moment), line), id: line.id } as Line) : null)}
      />
      {fields.map((field) => (
        <Group key={field.key} gap={4} wrap="nowrap" maw="100%" align="baseline">
          {(field.before ?? field.label) && <span>{field.before ?? field.label}</span>}
          <Field
            setting={{ ...field, label: `${label}: ${field.label}` }}
            value={line.with[field.key]}
            mixed={false}
            nameHint={nameHint}
            siblings={line.with}
            onChange={(value) => set({ ...line, with: { ...line.with, [field.key]: value } })}
          />
          {field.unit && <span>{field.unit}</span>}
        </Group>
      ))}
    </>
  )
}

/** Another action with all that both know: its variable, and what stands under the same name and type. */
function keepTarget(fresh: Line, old: Line): Line {
  const [from, to] = [actionKind(old.action)?.settings.fields, actionKind(fresh.action)?.settings.fields]
  const kept = Object.entries(old.with).filter(([key]) => to?.[key] && from?.[key]?.type === to[key].type)
  return { ...fresh, with: { ...fresh.with, ...Object.fromEntries(kept) } }
}

/** The line that a rule begins with: about the variable of the widget, where it has one. */
function firstLine(variable: unknown): Line {
  const line = freshLine('step')
  return typeof variable === 'string' && variable ? { ...line, with: { ...line.with, variable } } : line
}
