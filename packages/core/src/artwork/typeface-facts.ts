/** Embedding rights of a font file (OpenType 1.9, OS/2, fsType). */
export const embeddings = ['unsaid', 'installable', 'editable', 'whole', 'preview', 'restricted'] as const
export type Embedding = (typeof embeddings)[number]

/** Facts that a font file states. */
export interface TypefaceFacts {
  name: string
  embedding: Embedding
  /** Lightest and boldest where it has any weight between them (axis `wght`: 1 to 1000); 0 and 0 where it has one. */
  weightFrom: number
  weightTo: number
}
