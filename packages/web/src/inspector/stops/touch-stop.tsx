import type { Project, Widget } from '@moth-lamp/core/project'
import { useSession } from '../../session/context.tsx'
import { RulesField } from '../rule-sentences.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { fieldOf, holdsOf } from '../../parts/lookups.ts'
import { SettingField } from '../setting-fields.tsx'
import { Stop } from './stop.tsx'
import styles from './stops.module.css'

/** Behaviour of a button as a sentence: its actions, or one of three ways to write its variable; and its feedback. */
function Works({ project, widget }: { project: Project; widget: Widget }) {
  const session = useSession()
  const s = widget.settings
  const works = fieldOf(widget, 'works')
  if (!works) return null
  const holds = holdsOf(project, s['variable'])
  const field = (key: string) => (
    <SettingField
      setting={fieldOf(widget, key)!}
      value={s[key]}
      mixed={false}
      nameHint={widget.name}
      siblings={s}
      onChange={(value) => session.edit('set widgets', { ids: [widget.id], values: { [key]: value } })}
    />
  )
  const acts = s['works'] !== 'by its actions'
  return (
    <Sentence className={styles.sentence}>
      {field('works')}
      {acts && field('variable')}
      {acts && holds?.type === 'flags' && <>bit {field('bit')}</>}
      {s['works'] === 'sets its value' && <>to {field('value')}</>}
      {acts && <>· feedback from {field('shows')}</>}
      {s['shows'] !== '' && s['works'] === 'sets its value' && <>· expected {field('reaches')}</>}
    </Sentence>
  )
}

/** Stop of the touch: actions of a widget. */
export function TouchStop({ project, widget }: { project: Project; widget: Widget }) {
  const session = useSession()
  const { tries, confirmTimeoutMs } = project.link
  return (
    <Stop title="When touched" said={`ACK ${confirmTimeoutMs} ms × ${tries}`}>
      <Works project={project} widget={widget} />
      <RulesField
        setting={fieldOf(widget, 'rules')!}
        value={widget.settings['rules']}
        mixed={false}
        nameHint={widget.name}
        siblings={widget.settings}
        Field={SettingField}
        onChange={(rules) => session.edit('set widgets', { ids: [widget.id], values: { rules } })}
      />
    </Stop>
  )
}
