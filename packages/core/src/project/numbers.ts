import { collectionAt, collections, recordsOf, type Collection } from './collections.ts'
import type { Project } from './types.ts'

/** The highest number that fits a word of memory, and the highest that no host is told of. */
export const highestNumber = 0xffff
export const highestInside = 0x7fffffff

interface NumberedRecord {
  id: string
  name: string
  number?: number
}

/** Collections whose records have a number each. */
export const numberedCollections = (): Collection[] => collections().filter(({ numbers }) => numbers !== undefined)

const numberedOf = (project: Pick<Project, never>, collection: Collection): Record<string, NumberedRecord> =>
  recordsOf(project, collection) as Record<string, NumberedRecord>

const key = (id: string, number: number): string => `${id}@${number}`
/** Id and number of what a key of `spent.numbers` stands for. */
const ofKey = (spent: string): { id: string; number: number } => {
  const at = spent.lastIndexOf('@')
  return { id: spent.slice(0, at), number: Number(spent.slice(at + 1)) }
}

/** Numbers of a collection that have left the house, with the record they were of. */
function handedOff(project: Project, collection: Collection): { id: string; number: number; name: string }[] {
  const all = Object.entries(project.spent.numbers).map(([spent, name]) => ({ ...ofKey(spent), name }))
  return all.filter(({ id }) => id.startsWith(`${collection.kind}:`))
}

/** The next number of a collection, which is spent by it: above all that it gave before, and nobody's. Null: there is none left. */
export function freshNumber(draft: Project, map: string): number | null {
  const collection = collectionAt(...map.split('/'))!
  let number = (draft.spent.lastNumbers[map] ?? 0) + 1
  if (collection.numbers === 'by hand too') {
    const taken = new Set([
      ...Object.values(numberedOf(draft, collection)).map((record) => record.number),
      ...handedOff(draft, collection).map((spent) => spent.number),
    ])
    while (taken.has(number)) number++
  }
  if (number > (collection.numbers === 'inside' ? highestInside : highestNumber)) return null
  draft.spent.lastNumbers[map] = number
  return number
}

/** Whose a number is already, for a record that is to have it: a record beside it, or one that had it when it was handed off. */
export function holderOfNumber(
  project: Project,
  map: string,
  id: string,
  number: number,
): { name: string; isSpent: boolean } | null {
  const collection = collectionAt(map)!
  const beside = Object.values(numberedOf(project, collection)).find((record) => record.id !== id && record.number === number)
  if (beside) return { name: beside.name, isSpent: false }
  const spent = handedOff(project, collection).find((one) => one.id !== id && one.number === number)
  return spent ? { name: spent.name, isSpent: true } : null
}

/** Gives a number to each record of a draft that has none: one made before its kind had numbers. */
export function numberAll(draft: Project): void {
  for (const collection of numberedCollections()) {
    const records = numberedOf(draft, collection)
    const order = collection.order ? (draft as unknown as Record<string, readonly string[]>)[collection.order]! : []
    for (const id of order) {
      const record = records[id]
      if (!record || record.number !== undefined) continue
      const number = freshNumber(draft, collection.path.join('/'))
      if (number !== null) records[id] = { ...record, number }
    }
  }
}

/** The key in `spent.numbers` of a record's number. */
export const spentNumber = ({ id, number }: { id: string; number: number }): string => key(id, number)

/** Keys for `spent.numbers` of the numbers that may be given by hand and that nobody outside has been told yet. */
export function unspentNumbers(project: Project): { key: string; name: string }[] {
  return numberedCollections()
    .filter(({ numbers }) => numbers === 'by hand too')
    .flatMap((collection) => Object.values(numberedOf(project, collection)))
    .map(({ id, number, name }) => ({ key: key(id, number ?? 0), name }))
    .filter((one) => !Object.hasOwn(project.spent.numbers, one.key))
}

/** Numbers that were handed off, of records that are gone or have another one now. */
export function retiredNumbers(project: Project): { key: string; one: string; number: number; name: string }[] {
  return numberedCollections().flatMap((collection) => {
    const records = numberedOf(project, collection)
    return handedOff(project, collection)
      .filter(({ id, number }) => records[id]?.number !== number)
      .map(({ id, number, name }) => ({ key: key(id, number), one: collection.one, number, name }))
  })
}
