import type { FormField, Values } from '@moth-lamp/core/describe'
import { stepKind, type Step } from '@moth-lamp/core/scripts'
import { Sentence } from '../../controls/sentence.tsx'
import { SettingField, SettingRow } from '../../inspector/setting-fields.tsx'
import styles from './exchanges.module.css'

/** A step as a sentence whose words are edited where they stand; a kind without one as a list of its settings. */
export function StepSentence({ step, set }: { step: Step; set(key: string, value: unknown): void }) {
  const kind = stepKind(step.kind)
  const fields = new Map((kind.settings.list as readonly FormField[]).map((f) => [f.key, f]))
  const values = step.settings as Values
  const field = (key: string) => {
    const setting = fields.get(key)
    if (!setting) return null
    const shared = {
      setting,
      value: values[key],
      mixed: false,
      nameHint: 'value',
      siblings: values,
      onChange: (value: unknown) => set(key, value),
    }
    return { setting, shared }
  }
  if (!kind.phrase)
    return (
      <div>
        {kind.label}
        {[...fields.keys()].map((key) => {
          const found = field(key)!
          return <SettingRow key={key} {...found.shared} />
        })}
      </div>
    )
  const drags = step.kind === 'touch' && values['gesture'] === 'drag'
  const phrase = kind.phrase + (drags ? ' by {dx} px right and {dy} px down' : '')
  return (
    <Sentence className={styles.sentence}>
      {phrase.split(/(\{\w+\})/).map((part, i) => {
        const found = /^\{(\w+)\}$/.test(part) ? field(part.slice(1, -1)) : null
        return found ? <SettingField key={i} {...found.shared} /> : part.trim() ? <span key={i}>{part.trim()}</span> : null
      })}
    </Sentence>
  )
}
