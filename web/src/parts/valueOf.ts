import type { ItemAnswer } from '@bluestem/core/queries'

/** A property of an item by its handle, wherever the item carries it. */
export const valueOf = (item: ItemAnswer, handle: string): unknown =>
  handle in item ? item[handle] : item.fields?.[handle]
