import { colourRoles, roleId, type ColourRole, type NamedColour } from './colours.ts'

/** Ten colours for the night and ten for the day. */
export interface Palette {
  name: string
  meaning: string
  colours: Readonly<Record<ColourRole, readonly [night: string, day: string]>>
}

/** Palettes to start from. Every colour is one that 16 bits keep as it is, so nothing shifts on the glass. */
export const palettes: readonly Palette[] = [
  {
    name: 'Dusk',
    meaning: 'dark blue / light warm',
    colours: {
      ground: ['#080c18', '#efebde'],
      surface: ['#182442', '#ffffff'],
      line: ['#6371a5', '#6b758c'],
      ink: ['#f7ebd6', '#101421'],
      muted: ['#a5b2d6', '#424963'],
      accent: ['#7bc3ff', '#0849a5'],
      good: ['#63d39c', '#086539'],
      warning: ['#ffb239', '#ad4900'],
      bad: ['#ff756b', '#ad1021'],
      off: ['#314163', '#c6cbd6'],
    },
  },
  {
    name: 'Workshop',
    meaning: 'grey with green accent',
    colours: {
      ground: ['#101010', '#e7ebe7'],
      surface: ['#292c29', '#ffffff'],
      line: ['#7b827b', '#6b716b'],
      ink: ['#f7f7f7', '#181818'],
      muted: ['#bdbebd', '#4a4d4a'],
      accent: ['#5adbbd', '#006152'],
      good: ['#8cd76b', '#296110'],
      warning: ['#ffba42', '#a54d00'],
      bad: ['#ff7973', '#b51018'],
      off: ['#4a4d4a', '#cecfce'],
    },
  },
  {
    name: 'Far view',
    meaning: 'maximum contrast',
    colours: {
      ground: ['#000000', '#ffffff'],
      surface: ['#181c21', '#f7f7f7'],
      line: ['#a5a6a5', '#4a4d4a'],
      ink: ['#ffffff', '#000000'],
      muted: ['#d6d7d6', '#292c31'],
      accent: ['#ffff00', '#0018b5'],
      good: ['#00ff73', '#005121'],
      warning: ['#ffa600', '#8c3400'],
      bad: ['#ff8684', '#a50000'],
      off: ['#5a5d63', '#b5b6b5'],
    },
  },
]

/** The ten colours of a palette as records of a project. */
export const coloursOf = (palette: Palette): NamedColour[] =>
  colourRoles.map((role) => {
    const [night, day] = palette.colours[role]
    return { id: roleId(role), name: role, night, day }
  })

export const startingColours: readonly NamedColour[] = coloursOf(palettes[0]!)
