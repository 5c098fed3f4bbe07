import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'

/** A sortable key that stands after `before` and before `after`; null stands for the end of the list. */
export const orderBetween = (before: string | null, after: string | null): string =>
  generateKeyBetween(before, after)

/** `count` ascending keys for a new list. */
export const orderKeys = (count: number): string[] => generateNKeysBetween(null, null, count)
