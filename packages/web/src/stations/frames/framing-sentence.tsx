import type { FormField, Values } from '@moth-lamp/core/describe'
import { framingKind, isCheck, framingKinds, freshFraming, type BinaryWay, type Framing } from '@moth-lamp/core/frames'
import { Choice } from '../../controls/choice.tsx'
import { NumberField } from '../../controls/fields.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { SettingField } from '../../inspector/setting-fields.tsx'
import styles from './frames.module.css'

/** How a frame is found in the stream of bytes, as a sentence whose words are edited where they stand. */
export function FramingSentence({ way, set }: { way: BinaryWay; set(values: Partial<BinaryWay>): void }) {
  const { framing, gapUs } = way
  const kind = framingKind(framing.kind)
  const values = framing as unknown as Values
  const isSilent = kind?.endsBySilence ?? false
  return (
    <Sentence className={styles.sentence}>
      Framing:
      <Choice
        label="Framing"
        value={framing.kind}
        options={framingKinds().map(({ kind: value, label, detail }) => ({ value, label, detail }))}
        onChange={(next) => set({ framing: freshFraming(next as Framing['kind']) })}
      />
      {(kind?.settings.list as readonly FormField[] | undefined)?.map((setting) => (
        <span key={setting.key} className={styles.word}>
          · {setting.before ?? setting.label.toLowerCase()}{' '}
          <SettingField
            setting={setting}
            value={values[setting.key]}
            mixed={false}
            nameHint=""
            siblings={values}
            onChange={(value) => set({ framing: { ...framing, [setting.key]: value } as Framing })}
          />
          {setting.unit ? ` ${setting.unit}` : ''}
        </span>
      ))}{' '}
      · {isSilent ? 'silence' : 'inter-byte timeout'}
      <NumberField
        label={isSilent ? 'Silence' : 'Inter-byte timeout'}
        value={gapUs / 1000}
        min={isSilent ? 0.1 : 1}
        max={10_000}
        onCommit={(ms) => set({ gapUs: Math.round(ms * 1000) })}
      />
      ms
      <ModuleNumber way={way} set={set} />
      {[...way.head, ...way.end, ...way.forms.flatMap(({ parts }) => parts)].some(isCheck) && (
        <ChecksWord off={way.checks === 'off'} onChange={(off) => set({ checks: off ? 'off' : 'on' })} />
      )}
    </Sentence>
  )
}

/** Whether the checks of a module that may go without are used. */
export function ChecksWord({ off, onChange }: { off: boolean; onChange(off: boolean): void }) {
  return (
    <span className={styles.word}>
      · checksum
      <Choice
        label="Checksum in use"
        value={off ? 'off' : 'on'}
        options={['on', 'off']}
        onChange={(next) => onChange(next === 'off')}
      />
    </span>
  )
}

/** The number of the module, where frames bear it: the same in all of them. */
function ModuleNumber({ way, set }: { way: BinaryWay; set(values: Partial<BinaryWay>): void }) {
  const isModule = ({ part }: { part: string }) => part === 'module'
  const all = [...way.head, ...way.forms.flatMap(({ parts }) => parts), ...way.end]
  const found = all.find(isModule)
  if (!found) return null
  const number = Number((found as unknown as Values)['number'])
  const put = (value: number) => {
    const renumbered = <P extends { part: string }>(parts: readonly P[]): P[] =>
      parts.map((part) => (isModule(part) ? { ...part, number: value } : part))
    set({
      head: renumbered(way.head),
      forms: way.forms.map((form) => ({ ...form, parts: renumbered(form.parts) })),
      end: renumbered(way.end),
    })
  }
  return (
    <span className={styles.word}>
      · module number
      <NumberField label="Module number" value={number} min={0} max={65_535} whole onCommit={put} />
    </span>
  )
}
