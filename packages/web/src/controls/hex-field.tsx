import { Textarea } from '@mantine/core'
import { fromHex } from '@moth-lamp/core/base'
import { valueProblemWords } from './value-words.ts'

interface Props {
  label: string
  rows: number
  value: string
  onChange(text: string): void
  placeholder: string
  /** Why the text cannot be taken, where it need not be hex; null when it can. */
  wrong?: string | null
}

/** Bytes as hex, in whatever way people paste them; what is no hex is said below. */
export function HexField({ label, rows, value, onChange, placeholder, wrong: given }: Props) {
  const read = fromHex(value)
  const wrong = given !== undefined ? given : value !== '' && !read.ok ? valueProblemWords(read.problem) : null
  return (
    <Textarea
      rows={rows}
      aria-label={label}
      placeholder={placeholder}
      value={value}
      error={wrong && <span role="alert">{wrong}</span>}
      classNames={{ input: 'mono' }}
      onChange={(e) => onChange(e.currentTarget.value)}
    />
  )
}
