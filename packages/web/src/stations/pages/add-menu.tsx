import { Button, Kbd, Menu, SimpleGrid } from '@mantine/core'
import { memo, useState } from 'react'
import { compounds } from '@moth-lamp/core/compounds'
import type { Page } from '@moth-lamp/core/project'
import { isNumber, type Holds } from '@moth-lamp/core/variables'
import { widgetKinds } from '@moth-lamp/core/widgets'
import { takesFocus } from '../../controls/focus.ts'
import { useKeys } from '../../controls/keys.ts'
import { Items } from '../../controls/pop.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../shell/context.tsx'
import { addOffered, fittingVariables, labelOf, offeredCompounds, offeredKinds, type Offer } from './add-commands.ts'
import { KindPicture } from './kind-picture.tsx'

/** A letter for each kind, the first of its name that no other has; where there is none, any that is free. Compounds have figures. */
function offerKeys(): Map<string, string> {
  const taken = new Map<string, string>()
  for (const { kind, label } of widgetKinds()) {
    const isFree = (c: string) => /[a-z]/.test(c) && ![...taken.values()].includes(c)
    const letter = [...label.toLowerCase(), ...'abcdefghijklmnopqrstuvwxyz'].find(isFree)
    if (letter) taken.set(kind, letter)
  }
  compounds.slice(0, 9).forEach(({ compound }, k) => taken.set(compound, String(k + 1)))
  return taken
}

/** Every kind of widget as a small picture, by a key each, and what is several of them held together. */
export const AddMenu = memo(function AddMenu({ page }: { page: Page }) {
  const session = useSession()
  const [open, setOpen] = useState(false)
  /** A compound that has been chosen, and could show what there is already. */
  const [asked, setAsked] = useState<string | null>(null)
  const at = useStore(session.view, (v) => v.addAt)
  const keys = offerKeys()
  useKeys([['a', () => setOpen(true)]])
  const close = () => (setOpen(false), setAsked(null), session.view.set({ addAt: null }))
  const add = (name: string, variable = '') => {
    const place = at
    close()
    if (place) return addOffered(session, page, name, place, variable)
    session.view.set({ adding: name, addingFor: variable, widgets: [] })
    // The glass takes the focus, so that Enter puts it where there is room.
    document.querySelector<HTMLElement>('[data-glass="edit"]')?.focus({ preventScroll: true })
  }
  const choose = (name: string) => (fittingVariables(session.project, name).length ? setAsked(name) : add(name))
  const row = ({ name, label, meaning }: Offer) => (
    <Menu.Item
      key={name}
      onClick={() => choose(name)}
      closeMenuOnClick={false}
      leftSection={<KindPicture kind={name} />}
      rightSection={<Kbd size="xs">{keys.get(name)?.toUpperCase()}</Kbd>}
    >
      <strong>{label}</strong>
      <div className="muted small">{meaning}</div>
    </Menu.Item>
  )
  return (
    <Menu
      opened={open || at !== null}
      onChange={(now) => (now ? setOpen(true) : close())}
      position="bottom-start"
      width={asked ? 340 : 'min(960px, calc(100vw - 24px))'}
      returnFocus={false}
    >
      <Menu.Target>
        <Button>
          + Add <Kbd size="xs">A</Kbd>
        </Button>
      </Menu.Target>
      <Items
        mah="min(640px, calc(100vh - 90px))"
        onKeyDown={(e) => {
          if (e.ctrlKey || e.metaKey || asked) return
          const name = [...keys].find(([, key]) => key === e.key.toLowerCase())?.[0]
          if (!name) return
          e.preventDefault()
          choose(name)
        }}
      >
        {asked ? (
          <Shows name={asked} onChoose={(variable) => add(asked, variable)} />
        ) : (
          <>
            <SimpleGrid cols={{ base: 1, sm: 2, lg: 3 }} spacing={2} verticalSpacing={0}>
              {offeredKinds().map(row)}
            </SimpleGrid>
            <Menu.Divider />
            <Menu.Label>Several, held together</Menu.Label>
            <SimpleGrid cols={{ base: 1, sm: 2, lg: 3 }} spacing={2} verticalSpacing={0}>
              {offeredCompounds().map(row)}
            </SimpleGrid>
          </>
        )}
      </Items>
    </Menu>
  )
})

/** What a variable holds, in a few words. */
const holdsWords = (holds: Holds): string =>
  holds.type === 'flags'
    ? holds.names.filter(Boolean).join(', ') || 'flags'
    : holds.type === 'choice'
      ? holds.choices.map(({ word }) => word).join(', ')
      : isNumber(holds)
        ? `${holds.min} … ${holds.max} ${holds.unit}`
        : holds.type

/** Which variable a compound shows: one that is made for it, or one that there is. */
function Shows({ name, onChoose }: { name: string; onChoose(variable: string): void }) {
  const project = useProject()
  return (
    <>
      <Menu.Label>{labelOf(name)} of which variable?</Menu.Label>
      <Menu.Item onClick={() => onChoose('')} ref={takesFocus}>
        <strong>A new one</strong>
      </Menu.Item>
      {fittingVariables(project, name).map((v) => (
        <Menu.Item key={v.id} onClick={() => onChoose(v.id)}>
          {v.name} <span className="muted small">{holdsWords(v.holds)}</span>
        </Menu.Item>
      ))}
    </>
  )
}
