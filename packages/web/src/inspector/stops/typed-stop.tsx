import { doesFollow } from '@moth-lamp/core/describe'
import type { Project, Widget } from '@moth-lamp/core/project'
import { isNumber, unitAfter } from '@moth-lamp/core/variables'
import { useSession } from '../../session/context.tsx'
import { fieldOf, holdsOf } from '../../parts/lookups.ts'
import { SettingField } from '../setting-fields.tsx'
import { Line, Stop } from './stop.tsx'

/** Stop of typing: the keypad of a widget and its limits. */
export function TypedStop({ project, widget }: { project: Project; widget: Widget }) {
  const session = useSession()
  const s = widget.settings
  const variable = s['variable']
  const holds = holdsOf(project, doesFollow(variable) ? variable.follows : variable)
  const number = holds && isNumber(holds) ? holds : null
  const own = s['ends'] === 'its own'
  const line = (key: string) => {
    const setting = fieldOf(widget, key)
    if (!setting) return null
    return (
      <Line name={setting.label} key={key}>
        <SettingField
          setting={setting}
          value={s[key]}
          mixed={false}
          nameHint={widget.name}
          siblings={s}
          onChange={(value) => session.edit('set widgets', { ids: [widget.id], values: { [key]: value } })}
        />
      </Line>
    )
  }
  const keys = ['keypad', ...(number ? ['base', 'ends', ...(own ? ['from', 'to'] : [])] : [])]
  return (
    <Stop title="When touched" said={number && !own ? `${number.min} to ${number.max}${unitAfter(number.unit)}` : ''}>
      {keys.map(line)}
    </Stop>
  )
}
