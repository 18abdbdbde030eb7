import { ActionIcon, Button, Group, Stack, TextInput, UnstyledButton } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Pop } from '../../controls/pop.tsx'
import { api } from '../../session/api.ts'
import { readAgain } from '../../session/read-again.ts'
import { useProject, useSession } from '../../session/context.tsx'
import styles from './panel.module.css'

/** Panels that are kept for all projects: one is put in by a click, this one is kept under a name. */
export function PanelProfiles() {
  const [open, setOpen] = useState(false)
  return (
    <Pop
      position="bottom-end"
      width={340}
      opened={open}
      onChange={setOpen}
      target={<Button onClick={() => setOpen(!open)}>Hardware presets</Button>}
    >
      <Kept onDone={() => setOpen(false)} />
    </Pop>
  )
}

function Kept({ onDone }: { onDone(): void }) {
  const session = useSession()
  const { panel } = useProject()
  const client = useQueryClient()
  const [name, setName] = useState('')
  const kept = useQuery({ queryKey: ['profiles'], queryFn: api.profiles })
  const again = () => readAgain(client, 'profiles')
  const keep = useMutation({ mutationFn: api.keepProfile, onSuccess: () => (setName(''), again()) })
  const remove = useMutation({ mutationFn: api.removeProfile, onSuccess: again })
  const wrong = keep.error ?? remove.error ?? kept.error
  const list = kept.data ?? []
  const put = name.trim()
  return (
    <Stack gap={6}>
      <strong className="small">{list.length ? 'Apply a preset' : 'No presets saved'}</strong>
      {list.map((profile) => (
        <Group key={profile.name} gap={4} wrap="nowrap">
          <UnstyledButton
            className={styles.kept}
            onClick={() => {
              session.edit('set panel', { values: { ...profile.panel } })
              onDone()
            }}
          >
            {profile.name}{' '}
            <span className="small muted">
              {profile.panel.width} × {profile.panel.height} · {profile.panel.diagonalInches}″
            </span>
          </UnstyledButton>
          <ActionIcon variant="subtle" aria-label={`Remove ${profile.name}`} onClick={() => remove.mutate(profile.name)}>
            ×
          </ActionIcon>
        </Group>
      ))}
      <strong className="small">Save as preset</strong>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (put) keep.mutate({ name: put, panel })
        }}
      >
        <Group gap={6} wrap="nowrap">
          <TextInput
            flex={1}
            aria-label="Name of the preset"
            placeholder="name"
            maxLength={60}
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
          />
          <Button type="submit" disabled={!put} loading={keep.isPending}>
            {list.some((p) => p.name === put) ? 'Replace' : 'Save'}
          </Button>
        </Group>
      </form>
      {wrong && (
        <span role="alert" className="bad small">
          {wrong.message}
        </span>
      )}
    </Stack>
  )
}
