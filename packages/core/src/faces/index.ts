export { type Face, type CompiledFace, noFace, faceSchema, colourSchema, compileFace, paintFace, faceCovers } from './face.ts'
