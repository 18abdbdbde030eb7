import { Button, Checkbox, ScrollArea, Stack } from '@mantine/core'
import { useState } from 'react'
import { FindField } from '../../../controls/find-field.tsx'
import { Pop } from '../../../controls/pop.tsx'
import type { Column } from './columns.ts'

/** Which settings are columns of the table. */
export function ColumnChoice({
  all,
  keys,
  onChange,
}: {
  all: readonly Column[]
  keys: string[]
  onChange(keys: string[]): void
}) {
  const [find, setFind] = useState('')
  const matching = all.filter((c) => c.label.toLowerCase().includes(find.toLowerCase()))
  return (
    <Pop position="bottom-end" width={260} target={<Button>Columns …</Button>}>
      <Stack gap={6}>
        <FindField label="Find a column" placeholder="Find a setting …" value={find} onChange={setFind} />
        <ScrollArea.Autosize mah={320} viewportProps={{ tabIndex: 0 }}>
          <Stack gap={5}>
            {matching.map((c) => (
              <Checkbox
                key={c.key}
                label={c.label}
                checked={keys.includes(c.key)}
                onChange={(e) => onChange(e.currentTarget.checked ? [...keys, c.key] : keys.filter((key) => key !== c.key))}
              />
            ))}
            {!matching.length && <span className="muted">No match</span>}
          </Stack>
        </ScrollArea.Autosize>
      </Stack>
    </Pop>
  )
}
