import type { Item } from '../api/types.ts'

/** A property of an item by its handle, wherever the item carries it. */
export const valueOf = (item: Item, handle: string): unknown =>
  handle in item ? item[handle] : item.fields?.[handle]
