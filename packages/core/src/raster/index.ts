export { type Rgb565, rgb565, channelsOf, colourToRgb565, expand565, blend565 } from './colour.ts'
export { Surface, type Bitmap } from './surface.ts'
export {
  type Corners,
  type Covers,
  type Ink,
  type Stop,
  alongBearing,
  boxCovers,
  ellipseCovers,
  fadeInk,
  fillCornered,
  fillEllipse,
  fillLine,
  fillRounded,
  fromMiddle,
  gradientInk,
} from './shapes.ts'
export { type Arc, atBearing, fillArc, fillStroke } from './arcs.ts'
export { type Edges, type OutlineCommand, flatten, coverageOf, fillOutline, fillPath, fillPolygon } from './outline.ts'
export {
  type GlyphSheet,
  type Smoothing,
  smoothings,
  type Glyph,
  packGlyph,
  packPair,
  hasGlyph,
  textWidth,
  drawText,
} from './glyphs.ts'
