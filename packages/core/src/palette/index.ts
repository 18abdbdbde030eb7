export {
  lookNames,
  lookChoices,
  colourRoles,
  roleMeanings,
  roleId,
  isRole,
  colourIn,
  mixed,
  shownOnGlass,
  luminanceOf,
  contrastOf,
  type Look,
  type Looks,
  type ColourId,
  type ColourRole,
  type NamedColour,
  type NamedColours,
} from './colours.ts'
export { palettes, coloursOf, startingColours, type Palette } from './palettes.ts'
export { startingStyles, styleRoles, isStyleRole, type TypeStyle, type StyleId, type StyleRole } from './type-styles.ts'
export { seenAs, sightMatrices, sights, type Sight } from './sight.ts'
