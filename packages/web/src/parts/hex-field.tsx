import { fromHex } from '@moth-lamp/core/base'
import { valueProblemWords } from './value-words.ts'

interface Props {
  label: string
  rows: number
  value: string
  onChange(text: string): void
  placeholder: string
}

/** Bytes as hex, in whatever way people paste them; what is no hex is said below. */
export function HexField({ label, rows, value, onChange, placeholder }: Props) {
  const read = fromHex(value)
  const wrong = value !== '' && !read.ok
  return (
    <>
      <textarea
        className={`field mono ${wrong ? 'wrong' : ''}`}
        rows={rows}
        aria-label={label}
        aria-invalid={wrong || undefined}
        placeholder={placeholder}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
      {wrong && (
        <span className="wrong-words" role="alert">
          {valueProblemWords(read.problem)}
        </span>
      )}
    </>
  )
}
