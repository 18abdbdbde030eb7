export { type Typeface, readTypeface, measureText, lettersLacking } from './typeface.ts'
export { fontDamage, mostFontBytes } from './font-file.ts'
export { makeSheet, usualCharacters } from './sheet.ts'
export {
  type Chunk,
  type ChunkRequest,
  type Chunks,
  MadeChunks,
  WantedChunks,
  chunkKey,
  makeChunk,
  sortedLetters,
  usualLetters,
} from './chunks.ts'
export { coverageOf, flatten, type OutlineCommand } from '../raster/index.ts'
export { iconNames, iconPath, iconGrid } from './icons.ts'
