import type { Project, Widget } from '@moth-lamp/core/project'
import { useSession } from '../../shell/context.tsx'
import { ActionsField } from '../action-sentences.tsx'
import { fieldOf } from '../lookups.ts'
import { SettingField } from '../setting-fields.tsx'
import { Stop } from './stop.tsx'

/** What a finger on a widget does. */
export function TouchStop({ project, widget }: { project: Project; widget: Widget }) {
  const session = useSession()
  const { tries, confirmTimeoutMs } = project.link
  return (
    <Stop title="When touched" said={`waits for done ${confirmTimeoutMs} ms, ${tries} tries`}>
      <ActionsField
        setting={fieldOf(widget, 'actions')!}
        value={widget.settings['actions']}
        mixed={false}
        nameHint={widget.name}
        beside={widget.settings}
        Field={SettingField}
        onChange={(actions) => session.edit('set widgets', { ids: [widget.id], values: { actions } })}
      />
    </Stop>
  )
}
