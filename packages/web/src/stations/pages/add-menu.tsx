import { Button, FileButton, Kbd, Menu, SimpleGrid } from '@mantine/core'
import { Image, ImageOff } from 'lucide-react'
import { memo, useState, type ReactNode } from 'react'
import { compounds } from '@moth-lamp/core/compounds'
import { byStem, keyPictures, type Page, type PictureRecord } from '@moth-lamp/core/project'
import { isNumber, unitAfter, type Holds } from '@moth-lamp/core/variables'
import { widgetKinds } from '@moth-lamp/core/widgets'
import { takesFocus } from '../../controls/focus.ts'
import { useKeys } from '../../controls/keys.ts'
import { Items } from '../../controls/pop.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import {
  addOffered,
  addPictured,
  fittingVariables,
  labelOf,
  offeredCompounds,
  offeredKinds,
  type Offer,
} from '../../commands/add-commands.ts'
import { dropOnGlass } from '../../commands/drop-pictures.ts'
import { SmallPicture } from '../../parts/pixels.tsx'
import { pictureFiles } from '../../session/intake.ts'
import { KindPicture } from './kind-picture.tsx'
import styles from './pages.module.css'

/** A letter for each kind, the first of its name that no other has; where there is none, any that is free. Compounds have figures. */
function offerKeys(): Map<string, string> {
  const taken = new Map<string, string>()
  for (const { kind, label } of widgetKinds()) {
    const isFree = (c: string) => /[a-z]/.test(c) && ![...taken.values()].includes(c)
    const letter = [...label.toLowerCase(), ...'abcdefghijklmnopqrstuvwxyz'].find(isFree)
    if (letter) taken.set(kind, letter)
  }
  const figured = [...compounds.map(({ compound }) => compound), ...pictured.map(({ name }) => name)]
  figured.slice(0, 9).forEach((name, k) => taken.set(name, String(k + 1)))
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
  const addPictures = (pictures: readonly PictureRecord[]) => {
    const place = at
    close()
    addPictured(session, page, pictures, place)
  }
  const addFiles = (files: File[]) => {
    const { panel } = session.project
    const place = at
    close()
    const middle = place ?? { x: 0, y: 0, width: panel.width, height: panel.height }
    void dropOnGlass(session, files, page, { x: middle.x + middle.width / 2, y: middle.y + middle.height / 2 })
  }
  const choose = (name: string) => (pictured.some((offer) => offer.name === name) ? setAsked(name) : chooseWidgets(name))
  const chooseWidgets = (name: string) => (fittingVariables(session.project, name).length ? setAsked(name) : add(name))
  const row = ({ name, label, meaning }: Offer, picture: ReactNode = <KindPicture kind={name} />) => (
    <Menu.Item
      key={name}
      onClick={() => choose(name)}
      closeMenuOnClick={false}
      leftSection={picture}
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
        <Button data-add-menu>
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
        {pictured.some(({ name }) => name === asked) ? (
          <Pictures isKey={asked === 'picture key'} onFiles={addFiles} onPictures={addPictures} />
        ) : asked ? (
          <Shows name={asked} onChoose={(variable) => add(asked, variable)} />
        ) : (
          <>
            <SimpleGrid cols={{ base: 1, sm: 2, lg: 3 }} spacing={2} verticalSpacing={0}>
              {offeredKinds().map((offer) => row(offer))}
              {pictured.map((offer) => row(offer, <PictureSign isKey={offer.name === 'picture key'} />))}
            </SimpleGrid>
            <Menu.Divider />
            <Menu.Label>Groups</Menu.Label>
            <SimpleGrid cols={{ base: 1, sm: 2, lg: 3 }} spacing={2} verticalSpacing={0}>
              {offeredCompounds().map((offer) => row(offer))}
            </SimpleGrid>
          </>
        )}
      </Items>
    </Menu>
  )
})

/** The offers that are made of pictures. */
const pictured: readonly Offer[] = [
  { name: 'picture', label: 'Picture', meaning: 'at its size, with its transparency' },
  { name: 'picture key', label: 'Picture key', meaning: 'toggle: one picture off, one on, by file name' },
]

/** Stands for a picture, or a key of two. */
const PictureSign = ({ isKey }: { isKey: boolean }) => (
  <span className={styles.kindPicture} aria-hidden>
    {isKey && <ImageOff size={22} />}
    <Image size={22} />
  </span>
)

/** Which pictures: files, or those that the project has; for a key two of one thing. */
function Pictures(props: { isKey: boolean; onFiles(files: File[]): void; onPictures(all: readonly PictureRecord[]): void }) {
  const { isKey, onFiles, onPictures } = props
  const project = useProject()
  const all = project.pictureOrder.map((id) => project.pictures[id]!)
  const nameOf = ({ file, name }: PictureRecord) => file || name
  const keys = byStem(all, nameOf).filter(([, group]) => keyPictures(group, nameOf).on)
  const offers: [string, readonly PictureRecord[]][] = isKey ? keys : all.map((picture) => [picture.name, [picture]])
  return (
    <>
      <Menu.Label>{isKey ? 'Pictures of the key' : 'Picture'}</Menu.Label>
      <FileButton
        multiple
        accept={pictureFiles}
        inputProps={{ 'aria-label': 'Picture files' }}
        onChange={(files) => files.length && onFiles(files)}
      >
        {({ onClick }) => (
          <Menu.Item onClick={onClick} closeMenuOnClick={false} ref={takesFocus}>
            <strong>From files …</strong>
            <div className="muted small">{isKey ? 'its picture off and on, together' : 'one, or several side by side'}</div>
          </Menu.Item>
        )}
      </FileButton>
      {offers.map(([words, pictures]) => (
        <Menu.Item
          key={pictures[0]!.id}
          onClick={() => onPictures(pictures)}
          leftSection={<SmallPicture id={pictures[0]!.id} width={44} height={30} />}
        >
          {words || pictures[0]!.name}
        </Menu.Item>
      ))}
    </>
  )
}

/** What a variable holds, in a few words. */
const holdsWords = (holds: Holds): string =>
  holds.type === 'flags'
    ? holds.names.filter(Boolean).join(', ') || 'flags'
    : holds.type === 'choice'
      ? holds.choices.map(({ word }) => word).join(', ')
      : isNumber(holds)
        ? `${holds.min} … ${holds.max}${unitAfter(holds.unit)}`
        : holds.type

/** Which variable a compound shows: one that is made for it, or one that there is. */
function Shows({ name, onChoose }: { name: string; onChoose(variable: string): void }) {
  const project = useProject()
  return (
    <>
      <Menu.Label>{labelOf(name)} For which variable?</Menu.Label>
      <Menu.Item onClick={() => onChoose('')} ref={takesFocus}>
        <strong>New variable</strong>
      </Menu.Item>
      {fittingVariables(project, name).map((v) => (
        <Menu.Item key={v.id} onClick={() => onChoose(v.id)}>
          {v.name} <span className="muted small">{holdsWords(v.holds)}</span>
        </Menu.Item>
      ))}
    </>
  )
}
