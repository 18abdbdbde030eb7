/** The state in which a picture is shown, as the name of its file says. */
export type PictureRole = 'off' | 'on' | 'pressed'

const rolesByWord: Record<string, PictureRole> = {
  off: 'off',
  rest: 'off',
  normal: 'off',
  up: 'off',
  plain: 'off',
  idle: 'off',
  on: 'on',
  lit: 'on',
  active: 'on',
  pressed: 'pressed',
  down: 'pressed',
  held: 'pressed',
}

const wordsOf = (name: string): string[] =>
  name
    .toLowerCase()
    .replace(/\.[a-z0-9]+$/, '')
    .match(/[\p{L}]+|\d+/gu) ?? []

const isNumber = (word: string): boolean => /^\d+$/.test(word)

/** `pump-on.png` is `on`; null where its name says nothing. The last word that says something counts. */
export const pictureRole = (name: string): PictureRole | null =>
  wordsOf(name)
    .map((word) => rolesByWord[word])
    .findLast((role) => role !== undefined) ?? null

/** The last number in a name; null where it has none. */
const numberIn = (name: string): number | null => {
  const last = wordsOf(name).findLast(isNumber)
  return last === undefined ? null : Number(last)
}

/** The part of a name besides numbers and states: the same for all pictures of one thing. */
export const pictureStem = (name: string): string =>
  wordsOf(name)
    .filter((word) => !isNumber(word) && !(word in rolesByWord))
    .join(' ')

/** Pictures of one key: at rest, on, while it is pressed; and more states by their order. */
export interface KeyPictures<P> {
  off: P | null
  on: P | null
  pressed: P | null
  more: P[]
}

/**
 * The pictures of one key by their names (`…-off`, `…-on`, `…-pressed`); those whose names say nothing by their numbers, then in the
 * order given: the first that is missing of off and on, then more states.
 */
export function keyPictures<P>(pictures: readonly P[], nameOf: (picture: P) => string): KeyPictures<P> {
  const found: KeyPictures<P> = { off: null, on: null, pressed: null, more: [] }
  const left: P[] = []
  for (const picture of pictures) {
    const role = pictureRole(nameOf(picture))
    if (role && !found[role]) found[role] = picture
    else left.push(picture)
  }
  const order = (picture: P) => numberIn(nameOf(picture)) ?? 0
  for (const picture of [...left].sort((a, b) => order(a) - order(b))) {
    // A picture while pressed needs one at rest; only then is there a second state.
    if (!found.off) found.off = picture
    else if (!found.on) found.on = picture
    else found.more.push(picture)
  }
  return found
}

/** Pictures by what they are of, in the order in which each first comes. */
export function byStem<P>(pictures: readonly P[], nameOf: (picture: P) => string): [stem: string, P[]][] {
  const groups = new Map<string, P[]>()
  for (const picture of pictures) {
    const stem = pictureStem(nameOf(picture))
    groups.set(stem, [...(groups.get(stem) ?? []), picture])
  }
  return [...groups]
}
