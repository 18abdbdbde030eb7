import { newId, randomFrom, type Id, type IdKind } from '@moth-lamp/core/base'

const random = randomFrom(() => crypto.getRandomValues(new Uint32Array(1))[0]!)

/** A new id of a kind: 100 bits from the machine's own source of chance. */
export const freshId = <K extends IdKind>(kind: K): Id<K> => newId(kind, random)
