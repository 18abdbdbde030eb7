import { Button, Group, Menu, UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import { fromHex, toHex } from '@moth-lamp/core/base'
import type { FormField, Values } from '@moth-lamp/core/describe'
import {
  byteEndUs,
  directionsOf,
  operations,
  operationTexts,
  type Direction,
  type LineForm,
  type LinePart,
  type LinesWay,
  type NameStyle,
} from '@moth-lamp/core/frames'
import { madeWireName, type Project } from '@moth-lamp/core/project'
import { freshLinePart, linePartKind, linePartKinds, spellingSettings } from '@moth-lamp/core/protocols'
import { holdsTypes, type HoldsType } from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { Items } from '../../controls/pop.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { SettingField } from '../../inspector/setting-fields.tsx'
import { Bytes, Character } from '../../parts/frame.tsx'
import { useProtocol } from '../../parts/protocol.ts'
import { arrowOf } from './binary-way.tsx'
import { ChecksWord } from './framing-sentence.tsx'
import { exampleLine } from './example-line.ts'
import { AddPart, moved, PartBox, replaced } from './part-box.tsx'
import styles from './frames.module.css'

interface Props {
  project: Project
  way: LinesWay
  /** The directions that the way serves. */
  serves: readonly Direction[]
  set(values: Partial<LinesWay>): void
}

/** A way of lines: where a line begins and ends, how names and values stand in it, and each operation as a row of parts. */
export function LinesWayEditor({ project, way, serves, set }: Props) {
  const [at, setAt] = useState(0)
  const { forms } = way
  const index = Math.min(at, forms.length - 1)
  const form = forms[index]
  const add = (operation: LineForm['operation']) => {
    const directions = directionsOf[operation].filter((direction) => serves.includes(direction))
    set({ forms: [...forms, { operation, directions, types: [], parts: [{ part: 'words', text: operation }] }] })
    setAt(forms.length)
  }
  return (
    <>
      <LineEnds way={way} set={set} />
      <Spelling way={way} project={project} set={set} />
      <Group gap={8} align="center">
        <div className={styles.tabs} role="tablist" aria-label="Operation">
          {forms.map(({ operation, directions, types }, k) => (
            <UnstyledButton key={k} role="tab" aria-selected={k === index} onClick={() => setAt(k)}>
              <span aria-hidden>{arrowOf(directions)}</span> {operationTexts[operation]}
              {types.length > 0 && <span className="small muted"> {types.join(', ')}</span>}
            </UnstyledButton>
          ))}
        </div>
        <Menu position="bottom-start">
          <Menu.Target>
            <Button size="compact-xs">+ Line</Button>
          </Menu.Target>
          <Items>
            {operations
              .filter((operation) => directionsOf[operation].some((direction) => serves.includes(direction)))
              .map((operation) => (
                <Menu.Item key={operation} onClick={() => add(operation)}>
                  {arrowOf(directionsOf[operation])} {operationTexts[operation]}
                </Menu.Item>
              ))}
          </Items>
        </Menu>
      </Group>
      {form ? (
        <LineRow key={index} project={project} form={form} onChange={(next) => set({ forms: replaced(forms, index, next) })} />
      ) : (
        <p className="muted">No lines yet. Add one for each operation that the module has.</p>
      )}
      <LineLimits project={project} way={way} form={form ?? null} onRemove={() => set({ forms: replaced(forms, index, null) })} />
    </>
  )
}

/** Bytes as a word of a sentence, in hex; none where that is allowed. */
function BytesWord({
  label,
  value,
  least,
  onCommit,
}: {
  label: string
  value: readonly number[]
  least: number
  onCommit(bytes: number[]): void
}) {
  const read = (text: string): number[] | null => {
    if (!text.trim()) return least ? null : []
    const bytes = fromHex(text)
    return bytes.ok && bytes.value.length <= 4 ? Array.from(bytes.value) : null
  }
  return (
    <TextField
      mono
      label={label}
      value={toHex(value)}
      placeholder="none"
      check={(t) => (read(t) ? null : `Enter ${least} to 4 bytes in hex.`)}
      onCommit={(t) => onCommit(read(t)!)}
    />
  )
}

/** Where a line begins and ends, as a sentence whose words are edited where they stand. */
function LineEnds({ way, set }: Pick<Props, 'way' | 'set'>) {
  return (
    <Sentence className={styles.sentence}>
      Line: start bytes <BytesWord label="Start bytes" value={way.start} least={0} onCommit={(start) => set({ start })} /> · end
      bytes <BytesWord label="End bytes" value={way.end} least={1} onCommit={(end) => set({ end })} /> · ignored
      <BytesWord label="Ignored bytes" value={way.ignored} least={0} onCommit={(ignored) => set({ ignored })} /> · longest
      <NumberField label="Longest line" value={way.longest} min={16} max={1024} whole onCommit={(longest) => set({ longest })} />
      bytes · inter-byte timeout
      <NumberField
        label="Inter-byte timeout"
        value={way.gapUs / 1000}
        min={1}
        max={10_000}
        onCommit={(ms) => set({ gapUs: Math.round(ms * 1000) })}
      />
      ms
      {way.forms.some(({ parts }) => parts.some(({ part }) => part === 'check')) && (
        <ChecksWord off={way.checks === 'off'} onChange={(off) => set({ checks: off ? 'off' : 'on' })} />
      )}
    </Sentence>
  )
}

const letterTexts: Readonly<Record<NameStyle['letters'], string>> = {
  'as they are': 'as in the project',
  capitals: 'CAPITALS',
  small: 'small letters',
}

/** How names and values stand in a line, as a sentence. */
function Spelling({ way, project, set }: Pick<Props, 'way' | 'project' | 'set'>) {
  const { names, spelling } = way
  const first = project.variableOrder[0]
  const example = first ? madeWireName(project, names, project.variables[first]!) : ''
  return (
    <Sentence className={styles.sentence}>
      Names:
      <TextField
        mono
        label="Template of names"
        value={names.template}
        check={(t) =>
          /^[\x21-\x7e]+$/.test(t) && t.includes('{name}') ? null : 'Enter characters with {name} in them, no blanks.'
        }
        onCommit={(template) => set({ names: { ...names, template } })}
      />
      <Choice
        label="Letters of names"
        value={names.letters}
        options={Object.entries(letterTexts).map(([value, label]) => ({ value, label }))}
        onChange={(letters) => set({ names: { ...names, letters: letters as NameStyle['letters'] } })}
      />
      {example && <span className="muted mono">{example}</span>}
      {(spellingSettings.list as readonly FormField[]).map((setting) => (
        <span key={setting.key} className={styles.word}>
          · {setting.label.toLowerCase()}
          <SettingField
            setting={setting}
            value={spelling[setting.key]}
            mixed={false}
            nameHint=""
            siblings={spelling as Values}
            onChange={(value) => set({ spelling: { ...spelling, [setting.key]: value } })}
          />
        </span>
      ))}
    </Sentence>
  )
}

/** One operation as a row of parts, and below it the line that comes of it. */
function LineRow({ project, form, onChange }: { project: Project; form: LineForm; onChange(form: LineForm): void }) {
  const protocol = useProtocol()
  const { parts, operation } = form
  const put = (next: readonly LinePart[]) => onChange({ ...form, parts: next })
  const example = protocol && exampleLine(project, protocol, form)
  const anatomy = example?.bytes ? protocol!.dissect(form.directions[0]!, example.bytes) : null
  const inside = anatomy?.pieces.filter(({ label }) => label !== 'start' && label !== 'end')

  return (
    <div className={styles.diagram} role="tabpanel" aria-label={`Parts of ${operationTexts[operation]}`}>
      <div className={styles.line}>
        {parts.map((part, index) => {
          const kind = linePartKind(part.part)
          return (
            <PartBox
              key={part.id ?? `${index} ${part.part}`}
              part={part}
              label={kind?.label ?? part.part}
              made={kind?.made(part) ?? ''}
              tint={kind?.tint ?? 'unknown'}
              fields={(kind?.settings.list ?? []) as readonly FormField[]}
              list="line"
              index={index}
              count={parts.length}
              scope={`${operationTexts[operation]} only`}
              onChange={(next) => put(replaced(parts, index, next))}
              onMove={(from, to) => put(moved(parts, from, to))}
            >
              <span className={styles.characters} aria-hidden>
                {inside?.length === parts.length &&
                  Array.from(inside[index]!.plain, (byte, k) => <Character key={k} byte={byte} />)}
              </span>
            </PartBox>
          )
        })}
      </div>
      <div className={styles.exampleLine} aria-label="Example">
        {example?.bytes ? (
          <Bytes bytes={example.bytes} anatomy={anatomy} />
        ) : (
          <span className="muted small">{example?.why ?? 'The example appears when the layout is valid.'}</span>
        )}
      </div>
      <div className={styles.adders}>
        <AddPart
          where={`Part of ${operationTexts[operation]}`}
          kinds={linePartKinds().filter(({ onlyIn }) => !onlyIn || onlyIn.includes(operation))}
          onAdd={(kind) => put([...parts, freshLinePart(kind)])}
        />
        <Sentence className={styles.sentence}>
          for
          <Choice
            label="Data type of this line"
            value={form.types[0] ?? ''}
            options={[{ value: '', label: 'all data types' }, ...holdsTypes.map((type) => ({ value: type, label: type }))]}
            onChange={(type) => onChange({ ...form, types: type ? [type as HoldsType] : [] })}
          />
        </Sentence>
        <span className="muted small">Drag parts to reorder (Alt+arrows); click to edit</span>
      </div>
    </div>
  )
}

/** Limits of all lines: the longest and its time, and the buffer a host needs. */
function LineLimits({
  project,
  way,
  form,
  onRemove,
}: {
  project: Project
  way: LinesWay
  form: LineForm | null
  onRemove(): void
}) {
  const longest = way.start.length + way.longest + way.end.length
  const ms = byteEndUs(project.link, 0, longest) / 1000
  return (
    <Sentence className={styles.limits}>
      {form && (
        <Button size="compact-xs" variant="subtle" onClick={onRemove}>
          Remove “{operationTexts[form.operation]}”
        </Button>
      )}
      <span>
        Max line <strong>{longest} bytes</strong> = {ms.toFixed(ms < 10 ? 1 : 0)} ms
      </span>
      <span title="one line arrives while the previous one is processed">
        Host receive buffer ≥ <strong>{2 * longest} bytes</strong> (two lines)
      </span>
    </Sentence>
  )
}
