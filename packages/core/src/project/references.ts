import { kindOfId } from '../base/index.ts'
import { collectionOfId, collections, recordsOf } from './collections.ts'
import { collect, remembered, type Reference } from './record-refs.ts'
import { conductSettings, type Project } from './types.ts'

/** References of the panel's conduct are those of the project itself. */
const conductOwner = 'project:conduct'
const refsOfConduct = (project: Project): Reference[] =>
  remembered(project.conduct, () => collect(conductOwner, conductSettings, project.conduct))

/** Every reference in the document that settings make; parents and orders are not among them. */
export const allReferences = (project: Project): Reference[] => [
  ...collections().flatMap((collection) => Object.values(recordsOf(project, collection)).flatMap(collection.refs)),
  ...refsOfConduct(project),
]

const indexes = new WeakMap<Project, Map<string, Reference[]>>()

/** Users of an id. */
export function usersOf(project: Project, id: string): Reference[] {
  let index = indexes.get(project)
  if (!index) {
    index = new Map()
    for (const ref of allReferences(project)) {
      const list = index.get(ref.to)
      if (list) list.push(ref)
      else index.set(ref.to, [ref])
    }
    indexes.set(project, index)
  }
  return index.get(id) ?? []
}

/** Whether what an id names is there: own words count as variables. */
export function isThere(project: Project, id: string): boolean {
  const collection = collectionOfId(id)
  return collection !== undefined && (Object.hasOwn(recordsOf(project, collection), id) || collection.others?.().has(id) === true)
}

/** Takes every reference to `id` out of a draft of the document, `instead` in its place where one must be; says how many records changed. */
export function unbindAll(draft: Project, id: string, users: readonly Reference[], instead = ''): number {
  const owners = new Set(users.map((u) => u.from))
  for (const owner of owners) unbindIn(draft, owner, id, instead)
  return owners.size
}

function unbindIn(draft: Project, owner: string, id: string, instead: string): void {
  if (kindOfId(owner) === 'project') return void Object.assign(draft.conduct, conductSettings.without(draft.conduct, id, instead))
  const collection = collectionOfId(owner)
  const record = collection && recordsOf(draft, collection)[owner]
  if (record) collection.without(record, id, instead)
}
