import { Button, Group } from '@mantine/core'
import { sortedLetters } from '@moth-lamp/core/artwork'
import { letterSets } from '@moth-lamp/core/variables'
import { TextField } from '../controls/fields.tsx'

interface Props {
  label: string
  /** In order of code points, each once; '' where nothing is said. */
  value: string
  /** Default where nothing is set. */
  placeholder: string
  /** Those it may be; without this, any. */
  among?: string
  onChange(letters: string): void
}

/** Letters as they are typed, or sets of them by name. */
export function LetterField({ label, value, placeholder, among, onChange }: Props) {
  const strangers = (letters: string) => (among === undefined ? [] : [...letters].filter((letter) => !among.includes(letter)))
  return (
    <>
      <TextField
        label={label}
        value={value}
        placeholder={placeholder}
        check={(text) => {
          const [first] = strangers(text)
          return first === undefined ? null : `“${first}” is not in this encoding.`
        }}
        onCommit={(text) => onChange(sortedLetters(text))}
      />
      <Group gap={4}>
        {letterSets
          .filter(({ letters }) => !strangers(letters).length)
          .map(({ name, letters }) => (
            <Button
              key={name}
              size="compact-xs"
              aria-label={`${label}: ${name} as well`}
              onClick={() => onChange(sortedLetters(value + letters))}
            >
              + {name}
            </Button>
          ))}
        {value && (
          <Button size="compact-xs" variant="subtle" onClick={() => onChange('')}>
            none
          </Button>
        )}
      </Group>
    </>
  )
}
