export { type Rgb565, rgb565, channelsOf, colourToRgb565, expand565, blend565 } from './colour.ts'
export { Surface } from './surface.ts'
export { type Ink, gradientInk, fillRounded, fillEllipse, fillLine } from './shapes.ts'
export { type GlyphSheet, type Glyph, packGlyph, hasGlyph, textWidth, drawText } from './glyphs.ts'
