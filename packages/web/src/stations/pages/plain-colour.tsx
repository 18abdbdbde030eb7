import { ColorPicker, ColorSwatch, UnstyledButton } from '@mantine/core'
import { useRef, useState } from 'react'
import { TextField } from '../../controls/fields.tsx'

/** A colour by its digits alone: what a named colour is made of. */
export function PlainColour({ label, value, onCommit }: { label: string; value: string; onCommit(hex: string): void }) {
  const [open, setOpen] = useState(false)
  const timer = useRef(0)
  return (
    <div>
      <TextField
        mono
        label={label}
        value={value}
        left={
          <UnstyledButton aria-label={`${label}, picked`} aria-expanded={open} onClick={() => setOpen(!open)}>
            <ColorSwatch color={value} size={15} radius={4} withShadow />
          </UnstyledButton>
        }
        check={(text) => (/^#?[0-9a-f]{6}$/i.test(text.trim()) ? null : 'Enter a colour as #rrggbb.')}
        onCommit={(text) => onCommit(`#${text.trim().replace('#', '').toLowerCase()}`)}
      />
      {open && (
        <ColorPicker
          fullWidth
          size="xs"
          format="hex"
          saturationLabel={`${label}: saturation`}
          hueLabel={`${label}: hue`}
          value={value}
          onChange={(hex) => {
            clearTimeout(timer.current)
            timer.current = window.setTimeout(() => onCommit(hex.toLowerCase()), 150)
          }}
        />
      )}
    </div>
  )
}
