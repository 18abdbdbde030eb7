import { Checkbox, ColorPicker, ColorSwatch, SimpleGrid, UnstyledButton } from '@mantine/core'
import { useRef, type ReactNode } from 'react'
import { colourParts, type ColourText } from '@moth-lamp/core/describe'
import { contrastOf, seenAs, shownOnGlass } from '@moth-lamp/core/palette'
import { colourToRgb565 } from '@moth-lamp/core/raster'
import { colourWords, readColour, useColours } from './colours.ts'
import { useProject } from '../session/context.tsx'
import { TextField } from './fields.tsx'
import { Pop } from './pop.tsx'
import styles from './colour-field.module.css'

interface Props {
  value: ColourText
  onCommit(value: ColourText): void
  label: string
  /** It may be empty. */
  optional?: boolean
  /** Without its words beside it: they stand in the picker. */
  swatchOnly?: boolean
}

/** Nothing, or the word that stands there for it. */
const isNone = (text: string): boolean => ['', 'none'].includes(text.trim().toLowerCase())

/** A colour as a swatch that opens a picker, the project's own first, and its name or digits beside it. */
export function ColourField({ value, onCommit, label, optional, swatchOnly }: Props) {
  const project = useProject()
  const hexOf = useColours()
  const digits = (left?: ReactNode) => (
    <TextField
      label={label}
      mono={value.startsWith('#')}
      value={colourWords(project, value)}
      left={left}
      placeholder={optional ? 'none' : undefined}
      check={(text) =>
        readColour(project, text) !== null || (optional && isNone(text))
          ? null
          : `Enter a colour name, #rrggbb or RGB565 (4 hex digits)${optional ? ', or nothing' : ''}.`
      }
      onCommit={(text) => onCommit(readColour(project, text) ?? '')}
    />
  )
  const swatch = (
    <Pop
      position="bottom-start"
      width={272}
      target={
        <UnstyledButton aria-label={`${label}, picked`} title={colourWords(project, value) || 'pick a colour'}>
          <ColorSwatch color={hexOf(value) || '#ffffff00'} size={swatchOnly ? 25 : 15} radius={swatchOnly ? 6 : 4} withShadow />
        </UnstyledButton>
      }
    >
      {swatchOnly && digits()}
      <div className={styles.choice}>
        <ColourChoice label={label} value={value} onCommit={onCommit} />
      </div>
    </Pop>
  )
  return swatchOnly ? swatch : digits(swatch)
}

/** The colours of the project by name, whole or as a tint, and any other below; what of it is seen on the glass. */
function ColourChoice({ label, value, onCommit }: Pick<Props, 'label' | 'value' | 'onCommit'>) {
  const project = useProject()
  const hexOf = useColours()
  const timer = useRef(0)
  const { base, tint } = colourParts(value)
  const put = (next: string, tinted = tint) => onCommit(next && tinted ? `${next} tint` : next)
  const pick = (picked: string) => {
    clearTimeout(timer.current)
    timer.current = window.setTimeout(() => put(picked.toLowerCase()), 150)
  }
  const shown = hexOf(value)
  return (
    <>
      <SimpleGrid cols={2} spacing={2} verticalSpacing={2} role="group" aria-label={`${label}: colours of the project`}>
        {project.colourOrder.map((id) => {
          const colour = project.colours[id]!
          return (
            <UnstyledButton
              key={id}
              className={styles.named}
              aria-pressed={base === id}
              onClick={() => put(id)}
              title={`${colour.name}: ${hexOf(id)}`}
            >
              <ColorSwatch color={hexOf(tint ? `${id} tint` : id)} size={17} radius={4} withShadow />
              <span className="cut">{colour.name}</span>
            </UnstyledButton>
          )
        })}
      </SimpleGrid>
      <Checkbox
        my={6}
        size="xs"
        label="Tint: 24 % over the surface"
        checked={tint}
        disabled={!base}
        onChange={(e) => put(base, e.currentTarget.checked)}
      />
      <ColorPicker
        fullWidth
        size="xs"
        format="hex"
        saturationLabel={`${label}: saturation`}
        hueLabel={`${label}: hue`}
        value={hexOf(base) || '#000000'}
        onChange={pick}
      />
      <p className={`small muted ${styles.said}`}>
        {shown ? (
          <>
            on the glass <span className="mono">{shownOnGlass(shown)}</span> ·{' '}
            <span className="mono">{colourToRgb565(shown).toString(16).toUpperCase().padStart(4, '0')}</span>
            <br />
            contrast {ratio(shown, hexOf('colour:ground'))} on background, {ratio(shown, hexOf('colour:surface'))} on surface,{' '}
            {ratio(inSun(shown), inSun(hexOf('colour:ground')))} in sunlight
          </>
        ) : (
          'none'
        )}
      </p>
    </>
  )
}

const inSun = (colour: string) => seenAs(colour, 'in sunlight')
const ratio = (a: string, b: string): string => `${contrastOf(a, b).toFixed(1)} : 1`
