import { ActionIcon, Button, Group } from '@mantine/core'
import { ArrowUp, X } from 'lucide-react'
import type { FormField, Values } from '@moth-lamp/core/describe'
import { Pop } from '../controls/pop.tsx'
import type { NestingProps } from './field.ts'
import form from '../parts/fields.module.css'

/** `traces` → `trace`: what one of a list is called. */
const oneOf = (name: string): string => name.replace(/s$/, '')

/** A list of records: each with its fields, in its order; one more is added at the end. */
export function ItemsField({ setting, value, onChange, nameHint, Field }: NestingProps) {
  const items = value as readonly Values[]
  const { fields, fresh, most } = setting.type.items!
  const one = oneOf(setting.type.name)
  const moved = (k: number) => items.map((item, i) => (i === k - 1 ? items[k]! : i === k ? items[k - 1]! : item))
  return (
    <div>
      {items.map((item, k) => (
        <div className={form.sub} key={k} role="group" aria-label={`${one} ${k + 1}`}>
          <Group gap={2} wrap="nowrap">
            <strong className="grow small">{`${one} ${k + 1}`}</strong>
            <ActionIcon
              size={20}
              variant="subtle"
              disabled={k === 0}
              aria-label={`${one} ${k + 1}: up`}
              title="Move up"
              onClick={() => onChange(moved(k))}
            >
              <ArrowUp size={13} />
            </ActionIcon>
            <ActionIcon
              size={20}
              variant="subtle"
              aria-label={`Remove ${one} ${k + 1}`}
              title="Remove"
              onClick={() => onChange(items.filter((_, i) => i !== k))}
            >
              <X size={13} />
            </ActionIcon>
          </Group>
          {(fields as readonly FormField[]).map((field) => (
            <div className={form.setting} key={field.key}>
              <label title={field.hint}>{field.label}</label>
              <Field
                setting={{ ...field, label: `${one} ${k + 1}: ${field.label}` }}
                value={item[field.key]}
                mixed={false}
                nameHint={nameHint}
                siblings={item}
                onChange={(next) => onChange(items.map((old, i) => (i === k ? { ...old, [field.key]: next } : old)))}
              />
            </div>
          ))}
        </div>
      ))}
      <Button size="compact-xs" disabled={items.length >= most} onClick={() => onChange([...items, withoutId(fresh)])}>
        {`+ ${one[0]!.toUpperCase()}${one.slice(1)}`}
      </Button>
    </div>
  )
}

/** A new item is given its id by the gate. */
const withoutId = ({ id: _, ...rest }: Values): Values => rest

/** The same list behind a button that says how many there are: for a line of the column. */
export function ItemsLine(props: NestingProps) {
  const items = props.value as readonly Values[]
  const name = props.setting.type.name
  const words = items.length ? `${items.length} ${items.length === 1 ? oneOf(name) : name} …` : 'none'
  return (
    <Pop
      position="bottom-start"
      width={282}
      target={
        <Button fullWidth justify="flex-start" aria-label={`${props.setting.label}: ${words}`}>
          <span className="cut">{words}</span>
        </Button>
      }
    >
      <div className={form.long}>
        <ItemsField {...props} />
      </div>
    </Pop>
  )
}
