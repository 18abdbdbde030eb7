import { ActionIcon, Button, Menu, UnstyledButton } from '@mantine/core'
import type { FormField, Values } from '@moth-lamp/core/describe'
import { freshPart, partKind, partKinds, type Layout, type Part } from '@moth-lamp/core/frames'
import { Pop } from '../controls/pop.tsx'
import { SettingRow } from '../inspector/setting-fields.tsx'
import { tintOf } from '../parts/frame.tsx'

type Place = 'head' | 'parts' | 'end'

/** The parts of one place of the frame: each opens what it is made of; one more may be added. */
export function PartList({
  layout,
  place,
  parts,
  hint,
  onChange,
}: {
  layout: Layout
  place: Place
  parts: readonly Part[]
  hint: string
  onChange(parts: Part[]): void
}) {
  const put = (i: number, part: Part | null) => onChange(parts.flatMap((p, k) => (k === i ? (part ? [part] : []) : [p])))
  const swap = (i: number, by: number) => {
    const next = [...parts]
    const [moved] = next.splice(i, 1)
    next.splice(i + by, 0, moved!)
    onChange(next)
  }
  return (
    <>
      {parts.map((part, i) => (
        <Pop
          key={`${i} ${part.part} ${parts.length}`}
          position="bottom"
          width={280}
          target={
            <UnstyledButton className={`part ${tintOf(part.part)}`} title={`stands in ${hint}`}>
              <strong>{partKind(part.part)?.label ?? part.part}</strong>
              <span className="small">{partWords(part)}</span>
            </UnstyledButton>
          }
        >
          <div className="stack">
            <PartFields part={part} onChange={(next) => put(i, next)} />
            <span className="row">
              <Button size="compact-xs" disabled={i === 0} onClick={() => swap(i, -1)}>
                Earlier
              </Button>
              <Button size="compact-xs" disabled={i === parts.length - 1} onClick={() => swap(i, 1)}>
                Later
              </Button>
              <Button size="compact-xs" className="end" onClick={() => put(i, null)}>
                Remove
              </Button>
            </span>
            <span className="small muted">Stands in {place === 'parts' ? `“${hint}” only` : 'every frame'}.</span>
          </div>
        </Pop>
      ))}
      <Menu position="bottom-start">
        <Menu.Target>
          <ActionIcon
            style={{ alignSelf: 'center' }}
            aria-label={`Add a part ${place === 'head' ? 'to the head of every frame' : place === 'end' ? 'to the end of every frame' : `to ${hint}`}`}
          >
            +
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          {partKinds().map((kind) => (
            <Menu.Item key={kind.part} onClick={() => onChange([...parts, partLike(layout, kind.part)])}>
              {kind.label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </>
  )
}

/** A part as it is before anyone has said more, its numbers in the order of the others. */
function partLike(layout: Layout, kind: string): Part {
  const part = freshPart(kind)
  const others = [...layout.head, ...layout.end].flatMap((p) => ('order' in p ? [p.order] : []))
  return 'order' in part && others[0] ? { ...part, order: others[0] } : part
}

const partWords = (part: Part): string => partKind(part.part)?.made(part as never) ?? ''

/** What a part is made of, by the description of its kind. */
function PartFields({ part, onChange }: { part: Part; onChange(part: Part): void }) {
  const kind = partKind(part.part)
  return (
    <div>
      <strong>{kind?.label ?? part.part}</strong>
      {kind?.settings.list.map((field) => (
        <SettingRow
          key={field.key}
          setting={field as FormField}
          value={part[field.key as keyof Part]}
          mixed={false}
          nameHint=""
          beside={part as unknown as Values}
          onChange={(value) => onChange({ ...part, [field.key]: value } as Part)}
        />
      ))}
    </div>
  )
}
