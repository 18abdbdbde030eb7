/** A pixel of the glass: red 5 bits, green 6, blue 5, red most significant. */
export type Rgb565 = number

/** 8-bit channels to RGB565 by dropping the low bits: (R>>3)<<11 | (G>>2)<<5 | B>>3. */
export const rgb565 = (red: number, green: number, blue: number): Rgb565 => ((red >> 3) << 11) | ((green >> 2) << 5) | (blue >> 3)

/** `#1A2033` as 8-bit channels, or null where it is no colour. */
export function channelsOf(colour: string): { red: number; green: number; blue: number } | null {
  const found = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(colour)
  return found ? { red: parseInt(found[1]!, 16), green: parseInt(found[2]!, 16), blue: parseInt(found[3]!, 16) } : null
}

/** `#1A2033` as RGB565; what is no colour is black. */
export function colourToRgb565(colour: string): Rgb565 {
  const c = channelsOf(colour)
  return c ? rgb565(c.red, c.green, c.blue) : 0
}

/** The channels a display shows for RGB565: the high bits repeated into the low ones, so that full stays full. */
export const expand565 = (pixel: Rgb565): { red: number; green: number; blue: number } => {
  const red = pixel >> 11
  const green = (pixel >> 5) & 63
  const blue = pixel & 31
  return { red: (red << 3) | (red >> 2), green: (green << 2) | (green >> 4), blue: (blue << 3) | (blue >> 2) }
}

/** `under` covered by `over` to `coverage` 0–255, each channel rounded to the nearest. */
export function blend565(under: Rgb565, over: Rgb565, coverage: number): Rgb565 {
  const rest = 255 - coverage
  const red = Math.floor(((under >> 11) * rest + (over >> 11) * coverage + 127) / 255)
  const green = Math.floor((((under >> 5) & 63) * rest + ((over >> 5) & 63) * coverage + 127) / 255)
  const blue = Math.floor(((under & 31) * rest + (over & 31) * coverage + 127) / 255)
  return (red << 11) | (green << 5) | blue
}
