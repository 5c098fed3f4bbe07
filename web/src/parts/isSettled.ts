import type { ItemAnswer } from '@bluestem/core/queries'

/** Whether nothing is left to do on an item: done, or dropped. */
export const isSettled = (item: Pick<ItemAnswer, 'status'>): boolean =>
  ['done', 'dropped'].includes(String(item.status?.mark))
