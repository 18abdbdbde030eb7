import { Button, Group } from '@mantine/core'
import { madeWireName, nameStyleOf, type Variable } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { NumberField, TextField, YesNo } from '../../controls/fields.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { Line } from './stop.tsx'

/** Rarely used settings of a variable: description, timeout, new address, deletion. */
export function MoreOfVariable({ variable: v }: { variable: Variable }) {
  const session = useSession()
  const style = nameStyleOf({ layout: useStore(session.document, (d) => d.project.layout) })
  const set = (values: Partial<Variable>) => session.edit('set variable', { id: v.id, values })
  return (
    <>
      <Line name="Description">
        <TextField label="Description" value={v.meaning} placeholder="Description" onCommit={(meaning) => set({ meaning })} />
      </Line>
      {style && (
        <Line name="Wire name">
          <TextField
            mono
            label="Name on the wire"
            value={v.wireName ?? ''}
            placeholder={madeWireName(session.project, style, v)}
            check={(t) => (/^[^\s"'\\]*$/.test(t) ? null : 'No blanks, quotes or backslash.')}
            onCommit={(next) => set({ wireName: next })}
          />
        </Line>
      )}
      <Line name="Timeout">
        <Group gap={5} wrap="nowrap">
          <YesNo
            label="Timeout"
            words={v.stale ? 'after' : 'never'}
            value={v.stale !== null}
            onChange={(yes) => set({ stale: yes ? { afterMs: 0, shows: 'dashes' } : null })}
          />
          {v.stale && (
            <div className="grow">
              <NumberField
                label="Timeout after"
                value={v.stale.afterMs}
                min={0}
                zero="host timeout"
                max={3_600_000}
                whole
                unit="ms"
                onCommit={(afterMs) => set({ stale: { ...v.stale!, afterMs: afterMs === 0 ? 0 : Math.max(10, afterMs) } })}
              />
            </div>
          )}
        </Group>
      </Line>
      {v.stale && (
        <Line name="When stale">
          <Choice
            label="When stale"
            value={v.stale.shows}
            options={['dim', 'dashes']}
            onChange={(shows) => set({ stale: { ...v.stale!, shows: shows as 'dim' | 'dashes' } })}
          />
        </Line>
      )}
      <Group gap={5} mt={2}>
        <Button size="compact-xs" onClick={() => session.edit('give new address', { id: v.id })}>
          Assign new address
        </Button>
        <Button size="compact-xs" onClick={() => session.edit('delete variable', { id: v.id })}>
          Delete
        </Button>
      </Group>
    </>
  )
}
