import { Button, Group, SegmentedControl, Stack, Textarea } from '@mantine/core'
import { useEffect } from 'react'
import { around, type VariableId } from '@moth-lamp/core/base'
import type { Page, Project } from '@moth-lamp/core/project'
import { NumberField, TextField, YesNo } from '../../controls/fields.tsx'
import { useSession } from '../../session/context.tsx'
import { variablesIn } from './copies.ts'
import { useDraft } from './drafts.ts'
import { clashes, repeated, setsValue, type Repeat } from './repeat.ts'
import form from '../../parts/fields.module.css'

/** The flags word that some settings act on, with its named bits. */
function flagsOf(project: Project, picked: readonly string[]): { bits: number[]; names: string[] } {
  const widgets = picked.flatMap((id) => project.widgets[id as keyof typeof project.widgets] ?? [])
  for (const id of widgets.flatMap((w) => variablesIn(w.kind, w.settings))) {
    const holds = project.variables[id as VariableId]?.holds
    if (holds?.type === 'flags') {
      const bits = holds.names.flatMap((name, bit) => (name ? [bit] : []))
      return { bits, names: bits.map((bit) => holds.names[bit]!) }
    }
  }
  return { bits: [], names: [] }
}

const numbers = (text: string): number[] => (text.match(/\d+/g) ?? []).map(Number).filter((n) => n < 16)

/** Repeats what is picked n × m; what it would make is shown on the glass before it is made, and made as one change. */
export function RepeatForm({
  project,
  page,
  picked,
  onDone,
}: {
  project: Project
  page: Page
  picked: string[]
  onDone(): void
}) {
  const session = useSession()
  const widgets = picked.flatMap((id) => project.widgets[id as keyof typeof project.widgets] ?? [])
  const whole = widgets.map((w) => w.place).reduce(around)
  const flags = flagsOf(project, picked)
  const isChoice = !flags.bits.length && setsValue(widgets)
  const [repeat, setRepeat] = useDraft<Repeat>(session, `repeat ${picked.join(' ')}`, () => ({
    across: 1,
    down: flags.bits.length || 3,
    pitchX: whole.width + 8,
    pitchY: whole.height + 8,
    variables: flags.bits.length || isChoice ? 'the same' : 'own ones',
    bits: flags.bits,
    words: flags.names,
    valueStep: isChoice ? 1 : 0,
    linked: true,
  }))
  const set = (change: Partial<Repeat>) => setRepeat({ ...repeat, ...change })
  const request = repeated(project, page, picked, repeat)
  const told = clashes(project, request)
  useEffect(() => {
    const made = repeated(project, page, picked, repeat)
    if (made) session.preview('add widgets', made.add)
    return () => session.cancelPreview()
  }, [session, project, page, picked, repeat])
  const make = () => {
    session.cancelPreview()
    if (request && session.edit('repeat widgets', request)) session.view.set({ widgets: request.add.widgets.map((w) => w.id) })
    onDone()
  }
  const number = (label: string, key: 'across' | 'down' | 'pitchX' | 'pitchY' | 'valueStep', min?: number, sign = '') => (
    <NumberField label={label} left={sign} value={repeat[key]} whole min={min} onCommit={(v) => set({ [key]: v })} />
  )
  const line = (name: string, field: React.ReactNode) => (
    <div className={form.setting}>
      <label>{name}</label>
      {field}
    </div>
  )
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        make()
      }}
    >
      <Stack gap={4}>
        {line('Columns', number('Columns', 'across', 1))}
        {line('Rows', number('Rows', 'down', 1))}
        {line(
          'Pitch, px',
          <Group gap={4} wrap="nowrap" grow>
            {number('x pitch', 'pitchX', undefined, 'x')}
            {number('y pitch', 'pitchY', undefined, 'y')}
          </Group>,
        )}
        {line(
          'Variables',
          <SegmentedControl
            aria-label="Variables of the copies"
            data={[
              { value: 'the same', label: 'same' },
              { value: 'own ones', label: 'new' },
            ]}
            value={repeat.variables}
            onChange={(variables) => set({ variables: variables as Repeat['variables'] })}
          />,
        )}
        {line(
          'Bits',
          <TextField
            mono
            label="Bits, first to last"
            value={repeat.bits.join(', ')}
            placeholder="same as original"
            onCommit={(t) => set({ bits: numbers(t) })}
          />,
        )}
        {line(
          'Text',
          <Textarea
            rows={3}
            aria-label="Text, one line per copy"
            placeholder="a trailing number increments"
            value={repeat.words.join('\n')}
            onChange={(e) => set({ words: e.currentTarget.value ? e.currentTarget.value.split('\n') : [] })}
          />,
        )}
        {line('Value increment', number('Value increment', 'valueStep'))}
        {line(
          'Link',
          <YesNo
            label="Keep copies linked to the original"
            words="keep copies linked to the original"
            value={repeat.linked}
            onChange={(linked) => set({ linked })}
          />,
        )}
        {told.map((t) => (
          <p key={t} className="small muted">
            {t}
          </p>
        ))}
        <Group gap={6}>
          <Button type="submit" variant="filled" disabled={!request} data-first>
            Create {request?.add.widgets.length ?? 0}
          </Button>
          <Button onClick={onDone}>Cancel</Button>
        </Group>
      </Stack>
    </form>
  )
}
