import type { Rect } from '../base/index.ts'
import { blend565, drawText, textWidth, type GlyphSheet, type Rgb565, type Surface } from '../raster/index.ts'
import { oneOf, type SettledOf } from '../describe/index.ts'
import { roleId, type ColourRole, type StyleRole } from '../palette/index.ts'
import { settingTypes as t } from '../settings/index.ts'
import type { Live } from './kind.ts'

export type Align = 'left' | 'centre' | 'right'

/** Pixels between the edge of a box and its text. */
export const textMargin = 6

/** One line of text in a box, centred by the height of a capital; `\n` makes more lines. */
function paintTextBox(surface: Surface, box: Rect, sheet: GlyphSheet | null, text: string, align: Align, colour: Rgb565): void {
  if (!sheet || !text) return
  const lines = text.split('\n')
  const pitch = sheet.ascent + sheet.descent
  const first = box.y + Math.floor((box.height - (lines.length - 1) * pitch + sheet.capHeight) / 2)
  surface.within(box, () =>
    lines.forEach((line, i) => {
      const width = textWidth(sheet, line)
      const room = box.width - 2 * textMargin
      const x =
        align === 'left'
          ? box.x + textMargin
          : align === 'right'
            ? box.x + textMargin + room - width
            : box.x + Math.floor((box.width - width) / 2)
      drawText(surface, sheet, x, first + i * pitch, line, colour)
    }),
  )
}

/** One line in the letters, colour and alignment of a widget's settings; faded where it is stale or out of use. */
export function paintWords(
  surface: Surface,
  box: Rect,
  s: TextLook,
  live: Live,
  text: string,
  dim: boolean,
  colour = s.colour,
): void {
  const sheet = s.font === null ? null : live.sheet(s.font)
  paintTextBox(surface, box, sheet, text, s.align, dim ? faded(colour) : colour)
}

/** A colour half gone: what is stale or out of use. */
export const faded = (colour: Rgb565): Rgb565 => blend565(0x7bef, colour, 90)

/** Settings of everything that carries text. */
export const textFields = (style: StyleRole, align: Align, colour: ColourRole = 'ink') => ({
  font: { label: 'Type', type: t.font, default: `style:${style}`, group: 'Looks', essential: true },
  colour: {
    label: 'Text colour',
    type: t.colour,
    default: roleId(colour),
    group: 'Looks',
    essential: true,
    follows: true as const,
  },
  align: { label: 'Words stand', type: oneOf('left', 'centre', 'right'), default: align, group: 'Looks' },
})

/** What carries text is painted with. */
export type TextLook = SettledOf<ReturnType<typeof textFields>>

/** Settings of everything a finger does something to. */
export const touchFields = (beeps: boolean) => ({
  beeps: { label: 'Beeps', type: t.yesNo, default: beeps, group: 'When touched' },
  enabled: { label: 'Can be touched', type: t.yesNo, default: true, group: 'Behaviour', follows: true as const },
})

/** Settings every widget has. */
export const commonFields = {
  visible: { label: 'Visible', type: t.yesNo, default: true, group: 'Behaviour', follows: true as const },
}
