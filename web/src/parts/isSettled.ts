import type { Item } from '../api/types.ts'

/** Whether nothing is left to do on an item: done, or dropped. */
export const isSettled = (item: Pick<Item, 'status'>): boolean =>
  ['done', 'dropped'].includes(String(item.status?.mark))
