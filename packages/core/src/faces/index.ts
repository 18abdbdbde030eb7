export {
  type Face,
  type FaceStop,
  type FadeWay,
  type PictureAt,
  faceInstead,
  faceRefs,
  faceSchema,
  fadeWays,
  mapFaces,
  mostStops,
  noFace,
  picturePlaces,
} from './face.ts'
export { type CompiledFace, type ShownPicture, compileFace, faceCovers, paintFace, pictureRect } from './paint.ts'
