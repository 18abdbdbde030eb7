import { TextInput } from '@mantine/core'
import { Search } from 'lucide-react'
import { memo, useLayoutEffect, useRef } from 'react'
import { goHome } from './focus.ts'

interface Props {
  label: string
  value: string
  onChange(text: string): void
  placeholder?: string
  width?: number
  /** It has the focus as soon as it is there, and is scrolled to. */
  first?: boolean
  /** Escape leaves what the field stands in, instead of emptying it. */
  onLeave?(): void
}

/** Finds by a part of a name as one types; Escape empties it and gives the focus back. */
export const FindField = memo(function FindField({
  label,
  value,
  onChange,
  placeholder = 'Find …',
  width,
  first,
  onLeave,
}: Props) {
  const field = useRef<HTMLInputElement>(null)
  useLayoutEffect(() => {
    if (!first) return
    field.current?.scrollIntoView({ block: 'nearest' })
    field.current?.focus({ preventScroll: true })
  }, [first])
  return (
    <TextInput
      ref={field}
      aria-label={label}
      placeholder={placeholder}
      value={value}
      {...(width ? { w: width } : { flex: 1 })}
      leftSection={<Search size={13} />}
      leftSectionWidth={26}
      onChange={(e) => onChange(e.currentTarget.value)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') goHome(e.currentTarget)
        if (e.key !== 'Escape') return
        e.stopPropagation()
        if (onLeave) return (e.preventDefault(), onLeave())
        onChange('')
        goHome(e.currentTarget)
      }}
    />
  )
})
