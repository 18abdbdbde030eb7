export {
  currentForm,
  pageSettings,
  conductSettings,
  type Conduct,
  type PageKind,
  pageKinds,
  type Project,
  type Page,
  type Widget,
  type Command,
  type Variable,
  type FaceRecord,
  type TypefaceRecord,
  type Spent,
  orderOf,
} from './types.ts'
export { type BuildCell, CellTable } from './cells.ts'
export { bookOf } from './book.ts'
export { madeWireName, nameStyleOf } from './wire-names.ts'
export { layoutFile, layoutFileSentences, readLayoutFile } from './layout-file.ts'
export { usersOf, allReferences, isThere } from './references.ts'
export { type Reference, refsOfPage, refsOfWidget } from './record-refs.ts'
export { type Collection, type CollectionOf, collectionOfId, collections, recordsOf, registerCollection } from './collections.ts'
export { settingsOf, withSettings, copiesOf } from './linked.ts'
export { type Patch, applyPatches, patchesBetween, stillStands } from './patches.ts'
export { type Request, type Change, type Done, passGate, narrowed, undoOf, gateSentences } from './gate.ts'
export { mostChangeSize } from './keepable.ts'
export { keypadPages, keypads, type KeypadKind, type KeypadPage } from './keypad.ts'
export { heldWith, withHeld, parentsOfCopies } from './together.ts'
export { edits, retiredAddresses, unspentAddresses, takenSpans, freeName } from './edits/index.ts'
export { validateProject, withinMemory } from './validate.ts'
export { panelOfToday } from './from-form-3.ts'
export { migrate, migrateRequest, formOf } from './migrate.ts'
export { retiredNumbers, unspentNumbers } from './numbers.ts'
export {
  type Assets,
  packProject,
  unpackProject,
  assetsOf,
  assetNames,
  projectText,
  fileSentences,
  mostFileBytes,
  type OpenFile,
  openFile,
  unpackAsset,
  readDocument,
} from './file.ts'
export { type BundledTypeface, freshProject, pageGround } from './fresh.ts'
export { firstPage } from './first-page.ts'
export { assetSchema } from './schema.ts'
export { colourOf, firstLook, fontOf, faceOf, fallbacksOf, letterSpecOf, moreLettersOf, typefaceOf } from './named.ts'
export {
  type PanelProfile,
  panelSettings,
  panelSchema,
  plainPanel,
  memoryPlanOf,
  capitalOfEm,
  leastCapitalMm,
  leastTargetMm,
  pixelsPerMm,
  hasSystemVariable,
  systemVariablesOf,
} from './profile.ts'
export {
  type NewPicture,
  type PictureRecord,
  type PictureSettings,
  fittingOf,
  cutOf,
  pictureBytes,
  shownSize,
  pictureSettings,
  planOf,
  turnedSize,
  turnWords,
} from './picture.ts'
export { type CutOf, type Cuts, cutFaces, facesOf } from './cut.ts'
export { byStem, keyPictures, pictureRole, pictureStem, type KeyPictures, type PictureRole } from './picture-names.ts'
export type { NewVariable } from './edits/variables.ts'
export type { NewWidget } from './edits/widgets.ts'
