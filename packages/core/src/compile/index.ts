export { builtLayout } from './layout.ts'
export {
  type Build,
  type BuildHeader,
  type BuildPage,
  type BuildWidget,
  type CompiledConduct,
  type Symbols,
  sheetsOf,
  bitmapsOf,
} from './build.ts'
export { Compiler } from './compiler.ts'
export { contextOf } from './context.ts'
export { type HostBuild, compileHost } from './host.ts'
export { pictureUse, type PictureUse } from './pictures.ts'
export { letterBytes, type ArtworkPlan, type FontPart, type PagePart, type PicturePart } from './plan.ts'
export { sheetKey } from './sheets.ts'
