import { ActionIcon, Button, Group, Menu, Text, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api } from '../../session/api.ts'
import { useProject, useSession } from '../../shell/context.tsx'

/** Panels that are kept for all projects: one is put in by a click, this one is kept under a name. */
export function PanelProfiles() {
  const session = useSession()
  const { panel } = useProject()
  const client = useQueryClient()
  const [name, setName] = useState('')
  const kept = useQuery({ queryKey: ['profiles'], queryFn: api.profiles })
  const again = () => client.invalidateQueries({ queryKey: ['profiles'] })
  const keep = useMutation({ mutationFn: api.keepProfile, onSuccess: () => (setName(''), again()) })
  const remove = useMutation({ mutationFn: api.removeProfile, onSuccess: again })
  const wrong = keep.error ?? remove.error ?? kept.error
  const list = kept.data ?? []
  const put = name.trim()
  return (
    <Menu position="bottom-end" width={320} closeOnItemClick={false}>
      <Menu.Target>
        <Button variant="default" size="compact-sm">
          Profiles
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>{list.length ? 'Put in a kept panel' : 'No panel is kept yet'}</Menu.Label>
        {list.map((profile) => (
          <Group key={profile.name} gap={4} wrap="nowrap">
            <Menu.Item closeMenuOnClick onClick={() => session.edit('set panel', { values: { ...profile.panel } })}>
              {profile.name}
              <Text span size="sm" c="dimmed">
                {' '}
                {profile.panel.width} × {profile.panel.height} · {profile.panel.diagonalInches}″
              </Text>
            </Menu.Item>
            <ActionIcon variant="subtle" aria-label={`Remove ${profile.name}`} onClick={() => remove.mutate(profile.name)}>
              ×
            </ActionIcon>
          </Group>
        ))}
        <Menu.Label>Keep this panel for all projects</Menu.Label>
        <form
          onSubmit={(event) => {
            event.preventDefault()
            if (put) keep.mutate({ name: put, panel })
          }}
        >
          <Group gap={6} px={8} pb={6} wrap="nowrap">
            <TextInput
              size="xs"
              flex={1}
              aria-label="Name of the profile"
              placeholder="its name"
              maxLength={60}
              value={name}
              onChange={(event) => setName(event.currentTarget.value)}
              onKeyDown={(event) => event.key !== 'Escape' && event.stopPropagation()}
            />
            <Button type="submit" size="xs" disabled={!put} loading={keep.isPending}>
              {list.some((p) => p.name === put) ? 'Replace' : 'Keep'}
            </Button>
          </Group>
        </form>
        {wrong && (
          <Text role="alert" size="sm" c="red" px={8}>
            {wrong.message}
          </Text>
        )}
      </Menu.Dropdown>
    </Menu>
  )
}
