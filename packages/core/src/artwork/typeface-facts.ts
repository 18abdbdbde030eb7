/** What the licence of a font file says of putting it into other things (OpenType 1.9, OS/2, fsType). */
export const embeddings = ['unsaid', 'installable', 'editable', 'whole', 'preview', 'restricted'] as const
export type Embedding = (typeof embeddings)[number]

/** What a font file says of itself. */
export interface TypefaceFacts {
  name: string
  embedding: Embedding
  /** Lightest and boldest where it has any weight between them (axis `wght`: 1 to 1000); 0 and 0 where it has one. */
  weightFrom: number
  weightTo: number
}
