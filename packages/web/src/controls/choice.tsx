import { Combobox, InputBase, UnstyledButton, useCombobox } from '@mantine/core'
import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react'
import { takesFocus } from './focus.ts'
import { useInPopover } from './pop.tsx'
import { useInSentence } from './sentence.tsx'
import { asHighAsThereIsRoom } from './theme.ts'
import styles from './choice.module.css'
import sentence from './sentence.module.css'

/** One thing to choose. */
export interface Option {
  value: string
  label: string
  /** A heading it stands under. */
  group?: string
  /** Detail in small letters at the end of its row. */
  detail?: string
}

interface Props {
  value: string
  onChange(value: string): void
  label: string
  options: readonly (string | Option)[]
  disabled?: boolean | undefined
  /** Found by typing; by itself from a dozen on. */
  searchable?: boolean
  mono?: boolean
  /** Shown where nothing that is offered is chosen. */
  placeholder?: string
  /** A picture that stands for what is chosen, instead of its words. */
  picture?: ReactNode
}

/** Letters that come within so long of each other are one word, ms. */
const lettersWithinMs = 900
/** More than so many are found by typing. */
const searchedFrom = 12

/**
 * One of a list. Closed it takes no letters and no arrows, so that nobody changes by passing; Enter or a click opens it, and
 * in the open list arrows move, Enter takes, Escape leaves all as it was.
 */
export function Choice({ value, onChange, label, options, disabled, searchable, mono, placeholder, picture }: Props) {
  const [find, setFind] = useState('')
  const inPopover = useInPopover()
  const inSentence = useInSentence()
  const store = useCombobox({
    onDropdownClose: () => (store.resetSelectedOption(), setFind('')),
  })
  const all = options.map((o) => (typeof o === 'string' ? { value: o, label: o } : o))
  const searches = searchable ?? all.length > searchedFrom
  const words = find.toLowerCase().split(/\s+/).filter(Boolean)
  const shown = all.filter((o) => words.every((w) => `${o.label} ${o.detail ?? ''} ${o.group ?? ''}`.toLowerCase().includes(w)))
  const chosen = all.find((o) => o.value === value)
  const { dropdownOpened, selectActiveOption, setListId } = store
  // Named before it opens, so that what owns the list says so from its first moment.
  const listId = useId()
  useEffect(() => setListId(listId), [listId, setListId])
  // The list is there only while it is open: a station has hundreds of closed ones.
  useEffect(() => {
    if (!dropdownOpened) return
    selectActiveOption()
    // Once, when it has opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [dropdownOpened])
  /** The letters typed in an open list that has no field to find in, and when: letters that come soon after each other are one word. */
  const typed = useRef({ text: '', atMs: 0 })
  const findByLetters = (e: KeyboardEvent) => {
    if (searches || e.key.length !== 1 || e.ctrlKey || e.metaKey || e.altKey) return
    // A blank chooses, but in the middle of a word.
    const goesOn = e.timeStamp - typed.current.atMs < lettersWithinMs
    if (e.key === ' ' && !(goesOn && typed.current.text)) return
    typed.current = { text: (goesOn ? typed.current.text : '') + e.key.toLowerCase(), atMs: e.timeStamp }
    e.preventDefault()
    const at = foundByLetters(ordered(shown), typed.current.text)
    if (at >= 0) store.selectOption(at)
  }
  const shared = {
    'aria-label': label,
    disabled: disabled ?? false,
    onClick: () => store.toggleDropdown(),
    // While it is open its keys are its own: none reaches the station.
    onKeyDown: (e: KeyboardEvent) => {
      if (!store.dropdownOpened) return
      e.stopPropagation()
      if (e.key === 'Escape') e.preventDefault()
      findByLetters(e)
    },
  }
  return (
    <Combobox
      store={store}
      disabled={disabled ?? false}
      withinPortal={!inPopover}
      position="bottom-start"
      width="max-content"
      keepMounted={false}
      preventPositionChangeWhenVisible={false}
      middlewares={{ flip: true, shift: true, size: asHighAsThereIsRoom(200) }}
      onOptionSubmit={(picked) => {
        // The search field goes with the list: the focus goes back before.
        store.targetRef.current?.focus({ preventScroll: true })
        store.closeDropdown()
        if (picked !== value) onChange(picked)
      }}
    >
      <Combobox.Target targetType="button" withKeyboardNavigation={store.dropdownOpened} withExpandedAttribute>
        {picture ? (
          <UnstyledButton
            {...shared}
            aria-label={`${label}: ${chosen?.label ?? ''}`}
            title={chosen?.label}
            className={styles.picture}
          >
            {picture}
          </UnstyledButton>
        ) : inSentence ? (
          <UnstyledButton {...shared} className={`${sentence.word} ${mono ? 'mono' : ''}`}>
            {chosen?.label || placeholder || '…'}
          </UnstyledButton>
        ) : (
          <InputBase
            {...shared}
            component="button"
            type="button"
            pointer
            classNames={{ input: `${styles.closed} ${mono ? 'mono' : ''}` }}
            rightSection={<Combobox.Chevron size="xs" />}
            rightSectionPointerEvents="none"
            rightSectionWidth={22}
          >
            {chosen ? <span className={styles.text}>{chosen.label}</span> : <span className="muted">{placeholder ?? value}</span>}
          </InputBase>
        )}
      </Combobox.Target>
      <Combobox.Dropdown
        miw={120}
        maw={420}
        className={styles.dropdown}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Escape') store.targetRef.current?.focus({ preventScroll: true })
        }}
      >
        {searches && (
          <Combobox.Search
            ref={takesFocus}
            value={find}
            placeholder="Find …"
            aria-label={`Find in ${label}`}
            onChange={(e) => (setFind(e.currentTarget.value), store.selectFirstOption())}
          />
        )}
        <Combobox.Options id={listId} className={styles.list} aria-label={label}>
          {grouped(shown, value)}
          {!shown.length && <Combobox.Empty>No match</Combobox.Empty>}
        </Combobox.Options>
      </Combobox.Dropdown>
    </Combobox>
  )
}

/** Options as they stand below each other: those of a group together. */
const ordered = (options: readonly Option[]): Option[] =>
  [...new Set(options.map((o) => o.group))].flatMap((group) => options.filter((o) => o.group === group))

/** The first option that begins with the letters, or else has a word that does; −1 where none has. */
export function foundByLetters(options: readonly Option[], text: string): number {
  const labels = options.map(({ label }) => label.toLowerCase())
  const begins = labels.findIndex((label) => label.startsWith(text))
  return begins >= 0 ? begins : labels.findIndex((label) => label.split(/\W+/).some((word) => word.startsWith(text)))
}

function grouped(options: readonly Option[], value: string): ReactNode {
  const item = (o: Option) => (
    <Combobox.Option
      key={o.value}
      value={o.value}
      active={o.value === value}
      aria-description={o.detail}
      className={styles.option}
    >
      <span className={styles.label}>{o.label}</span>
      {o.detail && (
        <span className={styles.detail} aria-hidden>
          {o.detail}
        </span>
      )}
    </Combobox.Option>
  )
  const groups = [...new Set(options.map((o) => o.group))]
  return groups.map((group) => {
    const items = options.filter((o) => o.group === group).map(item)
    return group ? (
      <Combobox.Group key={group} label={group}>
        {items}
      </Combobox.Group>
    ) : (
      items
    )
  })
}
