import { Box, FileButton, Kbd, TextInput, UnstyledButton } from '@mantine/core'
import { Image, ImageOff, Search } from 'lucide-react'
import { useLayoutEffect, useRef, useState, type KeyboardEvent } from 'react'
import { byStem, keyPictures, type Page, type PictureRecord } from '@moth-lamp/core/project'
import { isNumber, unitAfter, type Holds } from '@moth-lamp/core/variables'
import { Choice } from '../../controls/choice.tsx'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { addOffered, addPictured, fittingVariables, type Offer } from '../../commands/add-commands.ts'
import { dropOnGlass } from '../../commands/drop-pictures.ts'
import { SmallPicture } from '../../parts/pixels.tsx'
import { ColumnForm } from '../../parts/column-form.tsx'
import { pictureFiles } from '../../session/intake.ts'
import { leaveForm } from './page-commands.ts'
import { matching, offerGroups, offerId, offerKeys, pictured, type OfferGroup } from './add-keys.ts'
import { KindPicture } from './kind-picture.tsx'
import styles from './pages.module.css'

const picturedOffer = (name: string | null): Offer | undefined => pictured.find((offer) => offer.name === name)

/**
 * All that can be added, in the column beside the glass, so that it never covers the place. What is typed narrows the list; the marked
 * offer is added by Enter where there is room, or by a click or a drag on the glass.
 */
export function AddList({ page }: { page: Page }) {
  const session = useSession()
  const project = useProject()
  const addingFor = useStore(session.view, (v) => v.addingFor)
  const at = useStore(session.view, (v) => v.addAt)
  const [text, setText] = useState('')
  const [marked, setMarked] = useState(session.view.value.adding)
  const field = useRef<HTMLInputElement>(null)
  /** The offer of pictures that has been chosen. */
  const [asked, setAsked] = useState<string | null>(null)
  const groups = offerGroups()
  const keys = offerKeys()
  const found = matching(groups, keys, text)
  const listed: readonly OfferGroup[] = text.trim() ? [{ title: 'Matches', offers: found }] : groups
  const all = listed.flatMap(({ offers }) => offers)
  const mark = (name: string | null) => {
    setMarked(name)
    // Pictures are chosen first: the glass takes a kind only.
    session.view.set({ adding: picturedOffer(name) ? null : name, addingFor: '' })
  }
  const close = () => leaveForm(session)
  const take = (name: string) => {
    if (picturedOffer(name)) return setAsked(name)
    const variable = name === marked ? addingFor : ''
    close()
    addOffered(session, page, name, at, variable)
  }
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return
    const step = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0
    if (step) {
      const from = all.findIndex(({ name }) => name === marked)
      mark(all[(from + step + all.length) % all.length]?.name ?? null)
    } else if (e.key === 'Enter') {
      if (marked) take(marked)
    } else return
    e.preventDefault()
    e.stopPropagation()
  }
  const fitting = marked ? fittingVariables(project, marked) : []
  const pictures = picturedOffer(asked)
  if (pictures)
    return (
      <ColumnForm title={pictures.label} onClose={close}>
        <Pictures
          isKey={pictures.name === 'picture key'}
          onFiles={(files) => {
            const { panel } = session.project
            const middle = at ?? { x: 0, y: 0, width: panel.width, height: panel.height }
            close()
            void dropOnGlass(session, files, page, { x: middle.x + middle.width / 2, y: middle.y + middle.height / 2 })
          }}
          onPictures={(pictures) => (close(), addPictured(session, page, pictures, at))}
        />
      </ColumnForm>
    )
  return (
    <ColumnForm title="Add a widget" onClose={close}>
      <TextInput
        ref={field}
        data-first
        role="combobox"
        aria-expanded
        aria-controls="add-list"
        aria-activedescendant={marked ? offerId(marked) : undefined}
        aria-label="Find a widget to add"
        placeholder="Name or key …"
        value={text}
        leftSection={<Search size={13} />}
        leftSectionWidth={26}
        onChange={(e) => {
          const typed = e.currentTarget.value
          setText(typed)
          mark(matching(groups, keys, typed)[0]?.name ?? null)
        }}
        onKeyDown={onKeyDown}
      />
      <p className="muted small">
        {at
          ? 'Enter or a click adds it in the drawn place.'
          : 'Enter adds it; or click its place, or drag its size, on the glass.'}
      </p>
      {fitting.length > 0 && (
        <div className={styles.addFor}>
          <label>Variable</label>
          <Choice
            label="Variable to show"
            value={addingFor}
            options={[
              { value: '', label: 'New variable' },
              ...fitting.map((v) => ({ value: v.id as string, label: v.name, detail: holdsWords(v.holds) })),
            ]}
            onChange={(variable) => {
              session.view.set({ addingFor: variable })
              // Enter adds it now.
              setTimeout(() => field.current?.focus())
            }}
          />
        </div>
      )}
      <div id="add-list" role="listbox" aria-label="Widgets to add">
        {listed.map(({ title, offers }) => (
          <div key={title} role="group" aria-label={title}>
            {!text.trim() && (
              <div className={styles.addGroup} aria-hidden>
                {title}
              </div>
            )}
            {offers.map((offer) => (
              <OfferRow
                key={offer.name}
                offer={offer}
                keyed={keys.get(offer.name) ?? ''}
                marked={offer.name === marked}
                onPick={at || picturedOffer(offer.name) ? take : mark}
                onTake={take}
              />
            ))}
          </div>
        ))}
      </div>
      {text.trim() && !found.length && <p className="muted">No match</p>}
    </ColumnForm>
  )
}

interface RowProps {
  offer: Offer
  keyed: string
  marked: boolean
  onPick(name: string): void
  onTake(name: string): void
}

function OfferRow({ offer: { name, label, meaning }, keyed, marked, onPick, onTake }: RowProps) {
  const row = useRef<HTMLButtonElement>(null)
  useLayoutEffect(() => {
    if (marked) row.current?.scrollIntoView({ block: 'nearest' })
  }, [marked])
  return (
    <UnstyledButton
      ref={row}
      id={offerId(name)}
      role="option"
      aria-selected={marked}
      tabIndex={-1}
      className={styles.offer}
      // The field keeps the focus, so that typing goes on.
      onMouseDown={(e) => e.preventDefault()}
      onClick={() => onPick(name)}
      onDoubleClick={() => onTake(name)}
    >
      {picturedOffer(name) ? <PictureSign isKey={name === 'picture key'} /> : <KindPicture kind={name} />}
      <span className="grow">
        <strong>{label}</strong>
        <span className="muted small">{meaning}</span>
      </span>
      <Kbd size="xs">{keyed.toUpperCase()}</Kbd>
    </UnstyledButton>
  )
}

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
      <FileButton
        multiple
        accept={pictureFiles}
        inputProps={{ 'aria-label': 'Picture files' }}
        onChange={(files) => files.length && onFiles(files)}
      >
        {({ onClick }) => (
          <UnstyledButton data-first className={styles.offer} onClick={onClick}>
            <PictureSign isKey={isKey} />
            <span className="grow">
              <strong>From files …</strong>
              <span className="muted small">{isKey ? 'its picture off and on, together' : 'one, or several side by side'}</span>
            </span>
          </UnstyledButton>
        )}
      </FileButton>
      {offers.map(([words, pictures]) => (
        <UnstyledButton key={pictures[0]!.id} className={styles.offer} onClick={() => onPictures(pictures)}>
          <Box component="span" w={84}>
            <SmallPicture id={pictures[0]!.id} width={60} height={40} />
          </Box>
          <span className="grow cut">{words || pictures[0]!.name}</span>
        </UnstyledButton>
      ))}
    </>
  )
}

/** Data type of a variable in a few words. */
const holdsWords = (holds: Holds): string =>
  holds.type === 'flags'
    ? holds.names.filter(Boolean).join(', ') || 'flags'
    : holds.type === 'choice'
      ? holds.choices.map(({ word }) => word).join(', ')
      : isNumber(holds)
        ? `${holds.min} to ${holds.max}${unitAfter(holds.unit)}`
        : holds.type
