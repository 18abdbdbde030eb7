export { type Item, itemId, itemList, withItemIds, withoutItemIds } from './items.ts'
export {
  type Ref,
  type Type,
  type Field,
  type NamedField,
  type FormField,
  type Fields,
  type RawOf,
  type SettledOf,
  type CompiledOf,
  type ValueOf,
  type Follows,
  type CompiledFollow,
  type FollowContext,
  type Values,
  type Described,
  describe,
  record,
  doesFollow,
  isCompiledFollow,
} from './describe.ts'
export { plain, text, number, whole, yesNo, oneOf, reference, listOf, idOrNone, colourText } from './types.ts'
