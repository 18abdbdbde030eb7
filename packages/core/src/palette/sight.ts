import { clamp } from '../base/index.ts'
import { channelsOf } from '../raster/index.ts'
import { hexOf, linearLight } from './colours.ts'

/** Vision of the observer, or the light on the glass. */
export const sights = ['as it is', 'red-blind', 'green-blind', 'blue-blind', 'in sunlight'] as const
export type Sight = (typeof sights)[number]

/** Highest luminance of the glass, cd/m². */
const glassLight = 400
/** Reflected sunlight: 4 % of 30 000 lx, spread evenly: lx × share / π, cd/m². */
const thrownBack = (30_000 * 0.04) / Math.PI
const own = glassLight / (glassLight + thrownBack)
const veil = 1 - own

type Row = readonly [red: number, green: number, blue: number, always: number]

/**
 * Perceived red, green and blue in linear light, 0–1. The three kinds of colour blindness: Machado, Oliveira and Fernandes,
 * “A Physiologically-based Model for Simulation of Color Vision Deficiency”, IEEE TVCG 15 (2009), severity 1.0 (protanopia,
 * deuteranopia, tritanopia). Sunlight: what a glass of 400 cd/m² throws back of 30 000 lx lies over all of it, and the eye takes
 * both together for its white.
 */
export const sightMatrices: Record<Sight, readonly [Row, Row, Row]> = {
  'as it is': [
    [1, 0, 0, 0],
    [0, 1, 0, 0],
    [0, 0, 1, 0],
  ],
  'red-blind': [
    [0.152286, 1.052583, -0.204868, 0],
    [0.114503, 0.786281, 0.099216, 0],
    [-0.003882, -0.048116, 1.051998, 0],
  ],
  'green-blind': [
    [0.367322, 0.860646, -0.227968, 0],
    [0.280085, 0.672501, 0.047413, 0],
    [-0.01182, 0.04294, 0.968881, 0],
  ],
  'blue-blind': [
    [1.255528, -0.076749, -0.178779, 0],
    [-0.078411, 0.930809, 0.147602, 0],
    [0.004733, 0.691367, 0.3039, 0],
  ],
  'in sunlight': [
    [own, 0, 0, veil],
    [0, own, 0, veil],
    [0, 0, own, veil],
  ],
}

const lights = Array.from({ length: 256 }, (_, channel) => linearLight(channel))
/** The channel of sRGB, 0–255, whose light comes nearest. */
const channelOf = (light: number): number => {
  const above = lights.findIndex((one) => one >= light)
  return above > 0 && light - lights[above - 1]! < lights[above]! - light ? above - 1 : above
}

/** Perceived colour of `#rrggbb`. */
export function seenAs(colour: string, sight: Sight): string {
  const c = channelsOf(colour)
  if (!c) return colour
  const channel = ([red, green, blue, always]: Row) => {
    const seen = red * linearLight(c.red) + green * linearLight(c.green) + blue * linearLight(c.blue) + always
    return channelOf(clamp(seen, 0, 1))
  }
  return hexOf(...sightMatrices[sight].map(channel))
}
