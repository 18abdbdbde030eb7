export { type Item, itemId, itemList, withItemIds, withoutItemIds } from './items.ts'
