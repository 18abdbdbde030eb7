export { type Face, type CompiledFace, noFace, faceSchema, compileFace, paintFace, faceCovers } from './face.ts'
