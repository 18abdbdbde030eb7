import type { Rect } from '../base/index.ts'
import { doesFollow, oneOf, type Follows, type SettledOf } from '../describe/index.ts'
import { roleId, type ColourRole, type StyleRole } from '../palette/index.ts'
import { drawText, textWidth, type GlyphSheet, type Surface } from '../raster/index.ts'
import { settingTypes as t } from '../settings/index.ts'
import { formatValue, isNumber, lettersIn, usualLetters, type Holds } from '../variables/index.ts'
import type { Live } from './kind.ts'

export type Align = 'left' | 'centre' | 'right'
export type Upright = 'top' | 'middle' | 'bottom'

/** Pixels between the edge of a box and its text. */
export const textMargin = 6

/** How much of what is stale, or out of use, is still seen over what lies behind it. */
export const faintShare = 0.5

/** Draws faintly where asked to. */
export const dimmed = (surface: Surface, dim: boolean, draw: () => void): void =>
  dim ? surface.faintly(faintShare, draw) : draw()

/** Words broken into lines no wider than `room` px, at blanks; a word that is wider stands alone. `\n` breaks too. */
export function wrapped(sheet: GlyphSheet, text: string, room: number): string[] {
  return text.split('\n').flatMap((line) => {
    const lines: string[] = []
    let now = ''
    for (const word of line.split(' ')) {
      const longer = now ? `${now} ${word}` : word
      if (now && textWidth(sheet, longer) > room) {
        lines.push(now)
        now = word
      } else now = longer
    }
    return [...lines, now]
  })
}

export interface Laid {
  align: Align
  upright?: Upright
  wraps?: boolean
  /** How far the words have run to the left, px: where they are too long. */
  ran?: number
}

/** Lines of text in a box, by default in its middle by the height of a capital letter. */
export function paintTextBox(
  surface: Surface,
  box: Rect,
  sheet: GlyphSheet | null,
  text: string,
  { align, upright = 'middle', wraps = false, ran = 0 }: Laid,
  colour: number,
): void {
  if (!sheet || !text) return
  const room = box.width - 2 * textMargin
  const lines = wraps ? wrapped(sheet, text, room) : text.split('\n')
  const pitch = sheet.ascent + sheet.descent
  const tall = (lines.length - 1) * pitch
  const first =
    upright === 'top'
      ? box.y + sheet.ascent
      : upright === 'bottom'
        ? box.y + box.height - sheet.descent - tall
        : box.y + Math.floor((box.height - tall + sheet.capHeight) / 2)
  surface.within(box, () =>
    lines.forEach((line, i) => {
      const width = textWidth(sheet, line)
      const x =
        align === 'left' || ran > 0
          ? box.x + textMargin - ran
          : align === 'right'
            ? box.x + textMargin + room - width
            : box.x + Math.floor((box.width - width) / 2)
      drawText(surface, sheet, x, first + i * pitch, line, colour)
    }),
  )
}

/** Words in the letters, colour and alignment of a widget's settings; faint where they are stale or out of use. */
export function paintWords(
  surface: Surface,
  box: Rect,
  s: TextLook,
  live: Live,
  text: string,
  dim: boolean,
  colour = s.colour,
  laid: Partial<Laid> = {},
): void {
  const sheet = sheetOf(s, live)
  dimmed(surface, dim, () => paintTextBox(surface, box, sheet, text, { align: s.align, ...laid }, colour))
}

/** The letters a widget writes with; null while they are not there. */
export const sheetOf = (s: { font: string | null }, live: Live): GlyphSheet | null =>
  s.font === null ? null : live.sheet(s.font)

/** Settings of everything that carries text. */
export const textFields = (style: StyleRole, align: Align, colour: ColourRole = 'ink') => ({
  font: { label: 'Font', type: t.font, default: `style:${style}`, group: 'Looks', essential: true },
  colour: {
    label: 'Text colour',
    type: t.colour,
    default: roleId(colour),
    group: 'Looks',
    essential: true,
    follows: true as const,
  },
  align: {
    label: 'Text alignment',
    type: oneOf({ left: 'left', centre: 'centre', right: 'right' }),
    default: align,
    group: 'Looks',
  },
})

/** Settings of text of more than a line. */
export const paragraphFields = {
  upright: {
    label: 'Vertical alignment',
    type: oneOf({ middle: 'middle', top: 'top', bottom: 'bottom' }),
    default: 'middle',
    group: 'Looks',
  },
  wraps: { label: 'Wrap text', type: t.yesNo, default: false, group: 'Looks' },
} as const

/** Painting options of text. */
export type TextLook = SettledOf<ReturnType<typeof textFields>>

/** Settings of everything a finger does something to. */
export const touchFields = (beeps: boolean) => ({
  beeps: { label: 'Touch beep', type: t.yesNo, default: beeps, group: 'When touched' },
  level: {
    label: 'Minimum access level',
    type: t.whole,
    default: 0,
    min: 0,
    max: 3,
    group: 'Behaviour',
    zero: 'none',
    hint: 'at a lower level touches are ignored',
  },
  enabled: { label: 'Enabled', type: t.yesNo, default: true, group: 'Behaviour', follows: true as const },
})

/** Settings every widget has. */
export const commonFields = {
  visible: { label: 'Visible', type: t.yesNo, default: true, group: 'Behaviour', follows: true as const },
}

/** The letters that a value may need: those of a text, of the words of a choice, or any usual one. */
export function lettersOfValue(holds: Holds | null): string {
  if (holds?.type === 'text') return lettersIn(holds)
  return holds?.type === 'choice' ? `0123456789-${holds.choices.map((c) => c.word).join('')}` : usualLetters
}

/** The longest that a value is as text: a text of its full length, every word of a choice, a number at its ends. */
export function widestOfValue(holds: Holds | null): string[] {
  if (holds?.type === 'text') return ['n'.repeat(holds.bytes)]
  if (holds?.type === 'choice') return holds.choices.map((c) => c.word)
  if (holds?.type === 'time') return ['88:88:88']
  return holds && isNumber(holds) ? [holds.min, holds.max].map((v) => formatValue(holds, v).replace(/\d/g, '8')) : []
}

/** The longest of words that stand as they are, or follow a variable. */
export const widestOfWords = (words: string | Follows, holdsOf: (variable: string) => Holds | null): string[] =>
  doesFollow(words) ? widestOfValue(holdsOf(words.follows)) : [words]

/** The letters of words that stand as they are, or follow a variable. */
export const lettersOfWords = (words: string | Follows, holdsOf: (variable: string) => Holds | null): string =>
  doesFollow(words) ? lettersOfValue(holdsOf(words.follows)) : words
