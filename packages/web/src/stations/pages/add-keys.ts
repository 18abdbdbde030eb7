import { compounds } from '@moth-lamp/core/compounds'
import { purposes, widgetKinds, type Purpose } from '@moth-lamp/core/widgets'
import { offeredCompounds, offeredKinds, type Offer } from '../../commands/add-commands.ts'

/** The offers that are made of pictures. */
export const pictured: readonly Offer[] = [
  { name: 'picture', label: 'Picture', meaning: 'at its size, with its transparency' },
  { name: 'picture key', label: 'Picture key', meaning: 'toggle: one picture off, one on, by file name' },
]

/** The heading of each group of offers. */
const groupTexts: Readonly<Record<Purpose, string>> = { show: 'Show', touch: 'Touch', type: 'Type', decorate: 'Decorate' }

/** The id of the row of an offer in the document. */
export const offerId = (name: string): string => `add-${name.replaceAll(' ', '-')}`

export interface OfferGroup {
  title: string
  offers: readonly Offer[]
}

/** All that can be added: kinds by what they are for, then groups of widgets. */
export function offerGroups(): OfferGroup[] {
  const purposeOf = new Map(widgetKinds().map(({ kind, purpose }) => [kind, purpose]))
  const kinds = purposes.map((purpose) => ({
    title: groupTexts[purpose],
    offers: [
      ...offeredKinds().filter(({ name }) => purposeOf.get(name) === purpose),
      ...(purpose === 'decorate' ? pictured.slice(0, 1) : purpose === 'touch' ? pictured.slice(1) : []),
    ],
  }))
  return [...kinds, { title: 'Groups of widgets', offers: offeredCompounds() }]
}

/** A letter for each kind, the first of its name that no other has; where there is none, any that is free. Compounds have figures. */
export function offerKeys(): Map<string, string> {
  const taken = new Map<string, string>()
  for (const { kind, label } of widgetKinds()) {
    const isFree = (c: string) => /[a-z]/.test(c) && ![...taken.values()].includes(c)
    const letter = [...label.toLowerCase(), ...'abcdefghijklmnopqrstuvwxyz'].find(isFree)
    if (letter) taken.set(kind, letter)
  }
  const figured = [...compounds.map(({ compound }) => compound), ...pictured.map(({ name }) => name)]
  figured.slice(0, 9).forEach((name, k) => taken.set(name, String(k + 1)))
  return taken
}

/**
 * Offers that match what is typed, the likeliest first: the offer of that key or exact name, names that begin so, names with a word that begins
 * so, names and then descriptions that contain it. An empty text matches none.
 */
export function matching(groups: readonly OfferGroup[], keys: ReadonlyMap<string, string>, typed: string): Offer[] {
  const text = typed.trim().toLowerCase()
  if (!text) return []
  const rankOf = ({ name, label, meaning }: Offer): number => {
    const low = label.toLowerCase()
    if (keys.get(name) === text || low === text) return 0
    if (low.startsWith(text)) return 1
    if (low.split(/\s+/).some((word) => word.startsWith(text))) return 2
    return low.includes(text) ? 3 : meaning.toLowerCase().includes(text) ? 4 : -1
  }
  return groups
    .flatMap(({ offers }) => offers)
    .map((offer) => ({ offer, rank: rankOf(offer) }))
    .filter(({ rank }) => rank >= 0)
    .sort((a, b) => a.rank - b.rank)
    .map(({ offer }) => offer)
}
