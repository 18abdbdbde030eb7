import { Box, Button, Group } from '@mantine/core'
import { memo } from 'react'
import type { FormField } from '@moth-lamp/core/describe'
import type { Project, Variable, Widget } from '@moth-lamp/core/project'
import type { SignalPath } from '@moth-lamp/core/signal-path'
import {
  formatAddress,
  formatValue,
  retyped,
  holdsTypes,
  parseAddress,
  travelKinds,
  travelWords,
  type HoldsType,
  type Travels,
} from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { TextField } from '../../controls/fields.tsx'
import { VariablePicker } from '../../controls/pickers.tsx'
import { ValueField } from '../../controls/value-field.tsx'
import { ScaleButton } from '../../parts/holds-fields.tsx'
import { nameProblem } from '../../parts/names.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { cameWith, freshFor } from '../../parts/lookups.ts'
import { Line, Stop, WideLine } from './stop.tsx'
import { MoreOfVariable } from './variable-more.tsx'

interface Props {
  project: Project
  path: SignalPath
  widget: Widget | null
  /** By which the widget is bound, where it is by a setting of its own. */
  binding: FormField | null
  /** It is the variable itself that is selected: all that is known of it can be edited. */
  whole?: boolean
}

/** The variable of a path: what it is called, where it stands, what it holds, how it travels, where it starts. */
export function VariableStop({ project, path, widget, binding, whole }: Props) {
  const session = useSession()
  const stop = path.variable
  const bind = widget && binding && (
    <VariablePicker
      session={session}
      project={project}
      label={binding.label}
      value={String(widget.settings[binding.key])}
      accepts={binding.accepts as readonly HoldsType[] | undefined}
      makes={widget.name}
      fresh={freshFor(project, widget.settings, binding.key)}
      onChange={(id) =>
        session.edit('set widgets', {
          ids: [widget.id],
          values: { [binding.key]: id },
          letGo: cameWith(project, widget, binding.key),
        })
      }
    />
  )
  if (!stop) return bind && <Stop title="Variable">{bind}</Stop>
  return (
    <Stop title="Variable" said={stop.variable ? travelWords[stop.variable.travels] : 'system variable'}>
      {bind && <Line name="Shows">{bind}</Line>}
      {stop.variable ? <OfProject variable={stop.variable} /> : <PlacedVariable path={path} />}
      {whole && stop.variable && <MoreOfVariable variable={stop.variable} />}
      {!whole && stop.alsoOn.length > 0 && (
        <div className="small muted cut" title={stop.alsoOn.join(', ')}>
          Used by {stop.alsoOn.length > 2 ? `${stop.alsoOn.length}: ` : ''}
          {stop.alsoOn.join(', ')}
        </div>
      )}
    </Stop>
  )
}

function PlacedVariable({ path }: { path: SignalPath }) {
  const session = useSession()
  const addresses = useStore(session.view, (v) => v.addresses)
  const { id, name, address, own } = path.variable!
  const now = useStore(session.live, (l) => l.own[id])
  return (
    <>
      <Line name="Name">
        <span className="mono cut" title={own!.meaning}>
          {name} · {formatAddress(address, addresses)} · {own!.holds.type}
        </span>
      </Line>
      {now !== undefined && (
        <Line name="Value">
          <span className="mono cut">{formatValue(own!.holds, now)}</span>
        </Line>
      )}
    </>
  )
}

/** A variable of the project; an edit of something else leaves it as it is on the screen. */
const OfProject = memo(function OfProject({ variable: v }: { variable: Variable }) {
  const session = useSession()
  const addresses = useStore(session.view, (a) => a.addresses)
  const { id, name, address } = v
  const now = useStore(session.live, (l) => l.values[id])
  const set = (values: Record<string, unknown>) => session.edit('set variable', { id, values })
  const start = <ValueField holds={v.holds} label="Initial value" value={v.initial} onChange={(initial) => set({ initial })} />
  // Chips and texts want a line of their own.
  const isWide = v.holds.type === 'flags' || v.holds.type === 'text'
  return (
    <>
      <Line name="Name">
        <Group gap={4} wrap="nowrap">
          <div className="grow">
            <TextField
              mono
              label="Name of the variable"
              value={name}
              isName
              check={nameProblem}
              onCommit={(next) => set({ name: next })}
            />
          </div>
          <Box component="span" w={70}>
            <TextField
              mono
              label="Address"
              value={formatAddress(address, addresses)}
              check={(t) => (parseAddress(t) === null ? 'Not an address.' : null)}
              onCommit={(t) => set({ address: parseAddress(t) })}
            />
          </Box>
        </Group>
      </Line>
      <Line name="Data type">
        <Group gap={4} wrap="nowrap">
          <Box component="span" w={74}>
            <Choice
              label="Data type of the variable"
              value={v.holds.type}
              options={holdsTypes}
              onChange={(type) => set({ holds: retyped(v.holds, type as HoldsType) })}
            />
          </Box>
          <div className="grow">
            <Choice
              label="Direction"
              value={v.travels}
              options={travelKinds.map((t) => ({ value: t, label: travelWords[t] }))}
              onChange={(travels) => set({ travels: travels as Travels })}
            />
          </div>
        </Group>
      </Line>
      <WideLine>
        <Group gap={4} wrap="nowrap">
          <div className="grow">
            <ScaleButton variable={v} onChange={(holds) => set({ holds })} />
          </div>
          {!isWide && (
            <>
              <span className="small muted">initial</span>
              <Box w={76}>{start}</Box>
            </>
          )}
        </Group>
      </WideLine>
      {isWide && <Line name="Initial value">{start}</Line>}
      {now?.written && now.value !== v.initial && (
        <Line name="Value">
          <Group gap={6} wrap="nowrap">
            <span className="mono cut">{formatValue(v.holds, now.value)}</span>
            <Button
              variant="subtle"
              size="compact-xs"
              ml="auto"
              title={`initial value ${formatValue(v.holds, v.initial)}, written since`}
              onClick={() => session.worker.send({ type: 'reset variable', id })}
            >
              Reset to {formatValue(v.holds, v.initial)}
            </Button>
          </Group>
        </Line>
      )}
    </>
  )
})
