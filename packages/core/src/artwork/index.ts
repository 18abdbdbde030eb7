export { type Embedding, type TypefaceFacts, embeddings } from './typeface-facts.ts'
export { type Lettering, type Typeface, factsOf, lettersLacking, measureText, plainly, readTypeface } from './typeface.ts'
export { fontDamage, fontSentences, isWoff2, mostFontBytes, woff2Damage } from './font-file.ts'
export { makeSheet, usualCharacters } from './sheet.ts'
export {
  type Chunk,
  type ChunkOf,
  type ChunkRequest,
  type LetterChunk,
  type LetterRequest,
  type LetterSpec,
  type PictureChunk,
  type PictureRequest,
  type Chunks,
  MadeChunks,
  madeFrom,
  WantedChunks,
  chunkKey,
  makeChunk,
  originalOf,
  givePictureCodecs,
  letteringOf,
  pictureCodecs,
  sizeOfMade,
  sortedLetters,
} from './chunks.ts'
export { coverageOf, flatten, type OutlineCommand } from '../raster/index.ts'
export { iconNames, iconPath, iconGrid } from './icons.ts'
export {
  type PictureFormat,
  type PictureInfo,
  lookIntoPicture,
  mostPictureBytes,
  mostPixels,
  mostSide,
  pictureFormat,
  pictureFormats,
  pictureSentences,
} from './picture-file.ts'
export type { Pixels } from './pixels.ts'
export { type PictureCodecs, decodePicture, seesThrough, turnedAs } from './picture-decode.ts'
export {
  type Dither,
  type Fitting,
  type FitPlan,
  type FitWay,
  contentOf,
  dithers,
  fitPlan,
  fitted,
  fitWays,
  fitTexts,
  ditherTexts,
  middlePart,
  prepared,
} from './fit.ts'
export { packRuns, runBytes, unpackRuns } from './runs.ts'
export { type WritingTrouble, writingTrouble } from './writing.ts'
export { type PanelPicture, toPanel } from './dither.ts'
export { type DrawsSvg, type Instantiate, wasmCodecs } from './wasm-codecs.ts'
