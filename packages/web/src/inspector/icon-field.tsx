import { Button, SimpleGrid, UnstyledButton } from '@mantine/core'
import { iconGrid, iconNames, iconPath } from '@moth-lamp/core/artwork'
import { useState } from 'react'
import { FindField } from '../controls/find-field.tsx'
import { Pop } from '../controls/pop.tsx'
import form from '../parts/fields.module.css'

/** Shown at once: whoever wants another types a part of its name. */
const most = 84

export const Sign = ({ name, size, colour = 'currentColor' }: { name: string; size: number; colour?: string }) => (
  <svg width={size} height={size} viewBox={`0 0 ${iconGrid} ${iconGrid}`} fill={colour} aria-hidden>
    <path d={iconPath(name) ?? ''} />
  </svg>
)

/** An icon by its picture, found by a part of its name. */
export function IconField({ label, value, onChange }: { label: string; value: string; onChange(name: string): void }) {
  const [find, setFind] = useState('')
  const [open, setOpen] = useState(false)
  const wanted = find.trim().toLowerCase().split(/\s+/)
  const found = iconNames.filter((name) => wanted.every((part) => name.includes(part)))
  const choose = (name: string) => {
    setOpen(false)
    onChange(name)
  }
  return (
    <Pop
      position="bottom-start"
      width={282}
      opened={open}
      onChange={setOpen}
      target={
        <Button fullWidth justify="flex-start" aria-label={`${label}: ${value || 'none'}`} onClick={() => setOpen(!open)}>
          {value && <Sign name={value} size={16} />}
          <span className={`cut ${form.iconName}`}>{value || 'none'}</span>
        </Button>
      }
    >
      {open && (
        <>
          <FindField label="Find an icon" placeholder={`Find one of ${iconNames.length} …`} value={find} onChange={setFind} />
          <SimpleGrid cols={7} spacing={2} verticalSpacing={2} my={6} className={form.long}>
            {found.slice(0, most).map((name) => (
              <UnstyledButton
                key={name}
                className={form.icon}
                aria-label={name}
                title={name}
                aria-pressed={name === value}
                onClick={() => choose(name)}
              >
                <Sign name={name} size={22} />
              </UnstyledButton>
            ))}
          </SimpleGrid>
          {!found.length && <p className="muted">No match</p>}
          {found.length > most && <p className="muted small">{found.length - most} more: type a part of their names.</p>}
          {value && (
            <Button size="compact-xs" variant="subtle" onClick={() => choose('')}>
              No icon
            </Button>
          )}
        </>
      )}
    </Pop>
  )
}
