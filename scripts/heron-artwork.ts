import { encode } from 'fast-png'
import { cosine, seededRandom, sine } from '@moth-lamp/core/base'

const [width, height] = [800, 480]

type Colour = readonly [number, number, number]
const mix = (a: Colour, b: Colour, share: number): Colour =>
  [0, 1, 2].map((k) => a[k]! + (b[k]! - a[k]!) * share) as unknown as Colour
const smooth = (from: number, to: number, x: number): number => {
  const t = Math.min(1, Math.max(0, (x - from) / (to - from)))
  return t * t * (3 - 2 * t)
}
const far = (x: number, y: number): number => Math.sqrt(x * x + y * y)

/** Height of a ridge at a column. */
const ridge = (x: number, base: number, waves: readonly (readonly [number, number, number])[]): number =>
  base + waves.reduce((sum, [size, length, phase]) => sum + size * sine((360 * x) / length + phase), 0)

/** The hill with its dome at dusk, as a PNG: drawn pixel by pixel, the same wherever this runs. */
export function hillAtDusk(): Uint8Array {
  const random = seededRandom(1843)
  const stars = Array.from({ length: 90 }, () => ({
    x: random.below(width),
    y: random.below(230),
    light: 60 + random.below(150),
  }))
  const data = new Uint8Array(3 * width * height)
  const put = (x: number, y: number, colour: Colour): void => data.set(colour.map((v) => Math.min(255, Math.max(0, Math.round(v)))), 3 * (y * width + x)) // prettier-ignore
  const moon = { x: 168, y: 104, size: 34 }
  const dome = { x: 556, y: 262, size: 74 }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // The sky: deep blue above, a band of rose over the horizon.
      let colour = mix([17, 20, 54], [58, 44, 98], smooth(0, 190, y))
      colour = mix(colour, [164, 78, 112], smooth(150, 262, y))
      colour = mix(colour, [238, 146, 96], smooth(232, 306, y))
      const away = far(x - moon.x, y - moon.y)
      colour = mix(colour, [226, 214, 190], 0.34 * (1 - smooth(moon.size, 190, away)))
      if (away < moon.size) colour = mix([246, 232, 196], [226, 206, 166], smooth(0, 26, far(x - moon.x - 8, y - moon.y + 9)))
      const behind = ridge(x, 300, [
        [16, 620, 40],
        [7, 210, 120],
      ])
      if (y > behind) colour = mix([86, 54, 92], [52, 38, 74], smooth(behind, behind + 90, y))
      // The dome stands on the hill: a half ball with its slit open, lit from within.
      const round = far(x - dome.x, y - dome.y)
      const hill = ridge(x, 318, [
        [26, 940, 250],
        [9, 330, 30],
      ])
      if (round < dome.size && y < dome.y) {
        const lit = smooth(-1, 1, (x - dome.x) / dome.size)
        colour = mix([58, 60, 92], [176, 150, 150], lit)
        const seam = Math.abs(((x - dome.x) / (dome.size * cosine(((y - dome.y) / dome.size) * 55))) * 3.2) % 1
        if (seam < 0.05) colour = mix(colour, [30, 30, 56], 0.5)
        if (x > dome.x - 15 && x < dome.x + 9)
          colour = mix([255, 206, 112], [255, 164, 58], smooth(dome.y - dome.size, dome.y, y))
      }
      if (y >= dome.y && y < hill + 4 && x > dome.x - dome.size - 4 && x < dome.x + dome.size + 4) {
        colour =
          y < dome.y + 7 ? [150, 132, 140] : mix([44, 44, 74], [98, 84, 104], smooth(dome.x - dome.size, dome.x + dome.size, x))
        if (far(x - dome.x + 42, y - dome.y - 26) < 8) colour = [255, 196, 104]
      }
      if (y > hill) colour = mix([22, 22, 44], [9, 10, 24], smooth(hill, hill + 120, y))
      put(x, y, colour)
    }
  for (const { x, y, light } of stars)
    if (far(x - moon.x, y - moon.y) > 80) put(x, y, mix([40, 36, 78], [250, 240, 226], light / 255))
  heron(put)
  return encode({ width, height, channels: 3, data })
}

/** A heron that flies home: neck drawn in, wings raised, legs behind. */
function heron(put: (x: number, y: number, colour: Colour) => void): void {
  const ink: Colour = [12, 13, 30]
  const stroke = (points: readonly (readonly [number, number, number])[]): void => {
    for (let k = 1; k < points.length; k++) {
      const [a, b] = [points[k - 1]!, points[k]!]
      for (let t = 0; t <= 60; t++) {
        const [x, y, r] = [0, 1, 2].map((n) => a[n]! + ((b[n]! - a[n]!) * t) / 60) as [number, number, number]
        for (let dy = -Math.ceil(r); dy <= r; dy++)
          for (let dx = -Math.ceil(r); dx <= r; dx++) if (far(dx, dy) <= r) put(Math.round(x + dx), Math.round(y + dy), ink)
      }
    }
  }
  stroke([[330, 176, 1], [352, 172, 2.4], [366, 166, 3], [378, 172, 4.4], [398, 178, 5], [424, 182, 2], [452, 186, 0.7]]) // prettier-ignore
  stroke([[384, 174, 4], [394, 150, 5], [412, 126, 4], [440, 112, 1]]) // prettier-ignore
  stroke([[392, 176, 4], [412, 160, 5], [440, 150, 3], [466, 150, 0.8]]) // prettier-ignore
}
