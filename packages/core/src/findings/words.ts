import { sentence } from '../base/index.ts'
import type { Finding } from './finding.ts'

/** The sentence of each finding. */
export const findingSentences: Record<string, string> = {
  overlap: '{name} overlaps {other} in memory.',
  retired: '{name} stands where {other} was: old firmware may still write there.',
  'own-words': '{name} lies in the panel’s own words.',
  'no-memory': '{name} lies where the panel has no memory.',
  'range-beyond-type': 'The range of {name} goes beyond {type}, which holds {low} to {high}.',
  unused: 'Nothing uses {name}.',
  'same-name': 'There are two variables called {name}.',
  outside: '“{name}” lies partly outside the glass.',
  'touch-overlap': '“{name}” and “{other}” overlap: a finger there gets “{name}”.',
  'no-variable': '“{name}” shows no variable.',
  'text-wide': '“{name}” cannot show “{text}”: {over} px too wide.',
  'text-tall': '“{name}” is {height} px high, and its letters are of {size} px.',
  'text-small': 'The capitals of “{name}” are {mm} mm high: from an arm’s length {least} mm are read.',
  'target-small': '“{name}” is {mm} mm where it is narrowest: a {finger} needs {least} mm.',
  contrast: 'The words of “{name}” hardly stand out by {look}: {contrast} : 1, and {least} : 1 is the least.',
  glyph: '“{name}” has letters its typeface lacks: {letters}',
  'dead-end': 'No touch leads away from page “{name}”.',
  unreachable: 'No touch leads to page “{name}”.',
  backlight: '“{name}” means to put the backlight out: the panel keeps it at the darkest that is still read.',
  mistyped: '“{name}” would mix a text with a number, so nothing happens: {deed}.',
  'not-reported': '“{name}” changes {variable}, which the panel never reports: it travels from the host only.',
  'keypad-lacks': '“{name}” is typed on {keypad}, which lacks {what}.',
  'state-or-action':
    '“{words}” is what a touch of “{name}” orders; on page “{page}” the same word of “{other}” says how it stands.',
  'unit-unscaled': '{name} is in {unit}, but its range is bare counts (to {most}): its factor says how much one count is.',
  'whole-word': '“{name}” sets the whole of {variable}: bits that others set go with it.',
  kind: '“{name}”: {says}.',
  chunk: '{name} cannot be drawn: {why}',
  'artwork-full': 'Pictures, letters and pages need {used} KiB, and this panel has room for {room}: {over} KiB too much.',
  'typeface-licence': 'The licence of “{name}” wants {wants}.',
  writing: '“{name}” has the letter {letter}, which {does}: a panel sets letter after letter, from left to right.',
  'picture-runs': 'This panel does not read pictures in runs of one colour, as “{name}” is kept.',
  'picture-glass': '“{name}” lies behind a page with {size}, and the glass has {glass}.',
  'picture-unused': 'Nothing shows the picture “{name}”.',
  'picture-enlarged': '“{name}” is made {times} times as large as it is.',
  'picture-stretched': '“{name}” comes out {off} % too {way}.',
  'picture-blends': 'This panel cannot lay “{name}” over what is there: it keeps no transparency.',
  layout: '{why}',
  'layout-advice': '{why}',
  absent: 'This panel has no {what}, which {name} uses.',
  dark: '“{name}” dims to {to} %: below {darkest} % nobody reads this glass.',
}

export const findingWords = (finding: Finding): string => sentence(findingSentences[finding.code] ?? finding.code, finding.facts)
