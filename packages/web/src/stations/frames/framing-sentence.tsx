import type { FormField, Values } from '@moth-lamp/core/describe'
import { framingKind, framingKinds, freshFraming, type BinaryWay, type Framing } from '@moth-lamp/core/frames'
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
    </Sentence>
  )
}
