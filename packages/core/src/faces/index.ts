export {
  type Face,
  type CompiledFace,
  noFace,
  faceSchema,
  compileFace,
  faceRefs,
  faceInstead,
  paintFace,
  faceCovers,
} from './face.ts'
