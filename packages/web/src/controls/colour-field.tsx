import { ColorPicker, ColorSwatch, UnstyledButton } from '@mantine/core'
import { useRef, type ReactNode } from 'react'
import { colourToRgb565, expand565 } from '@moth-lamp/core/raster'
import { TextField } from './fields.tsx'
import { Pop } from './pop.tsx'

interface Props {
  value: string
  onCommit(value: string): void
  label: string
  /** It may be empty. */
  optional?: boolean
  /** Colours offered first: those the project uses. */
  swatches?: readonly string[]
  /** Without its digits beside it: they stand in the picker. */
  swatchOnly?: boolean
}

/** A colour as a swatch that opens a picker, and its digits: `#rrggbb`, or the four hex digits the glass keeps of it. */
export function ColourField({ value, onCommit, label, optional, swatches = [], swatchOnly }: Props) {
  const timer = useRef(0)
  const shown = /^#[0-9a-f]{6}$/i.test(value) ? value : ''
  const pick = (picked: string) => {
    clearTimeout(timer.current)
    timer.current = window.setTimeout(() => onCommit(picked.toLowerCase()), 150)
  }
  const digits = (left?: ReactNode) => (
    <TextField
      mono
      label={label}
      value={value}
      left={left}
      placeholder={optional ? 'none' : undefined}
      check={(text) =>
        readColour(text) !== null || (optional && text === '') ? null : 'A colour is #rrggbb, or four hex digits.'
      }
      onCommit={(text) => onCommit(readColour(text) ?? '')}
    />
  )
  const swatch = (
    <Pop
      position="bottom-start"
      width={224}
      target={
        <UnstyledButton aria-label={`${label}, picked`} title="pick a colour">
          <ColorSwatch color={shown || '#ffffff00'} size={swatchOnly ? 25 : 15} radius={swatchOnly ? 6 : 4} withShadow />
        </UnstyledButton>
      }
    >
      <ColorPicker
        fullWidth
        format="hex"
        value={shown || '#000000'}
        swatches={[...swatches]}
        swatchesPerRow={8}
        onChange={pick}
      />
      {swatchOnly && digits()}
      <p className="small muted mono">
        {shown ? `on the glass ${colourOf(colourToRgb565(shown))} · ${hexDigits(colourToRgb565(shown), 4)}` : 'none'}
      </p>
    </Pop>
  )
  return swatchOnly ? swatch : digits(swatch)
}

const hexDigits = (n: number, digits: number): string => n.toString(16).toUpperCase().padStart(digits, '0')
/** The colour a glass of 16 bits shows. */
function colourOf(rgb565: number): string {
  const { red, green, blue } = expand565(rgb565)
  return `#${[red, green, blue].map((c) => hexDigits(c, 2).toLowerCase()).join('')}`
}

/** `#rrggbb`, with or without its sign, or RGB565 in four hex digits; null for anything else. */
export function readColour(text: string): string | null {
  const trimmed = text.trim().toLowerCase()
  const long = /^#?([0-9a-f]{6})$/.exec(trimmed)
  if (long) return `#${long[1]}`
  const short = /^(?:#|0x)?([0-9a-f]{4})$/.exec(trimmed)
  return short ? colourOf(parseInt(short[1]!, 16)) : null
}
