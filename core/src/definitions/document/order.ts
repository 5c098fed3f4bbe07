import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'

/** A sortable key that stands after `before` and before `after`; null stands for the end of the list. */
export const orderBetween = (before: string | null, after: string | null): string =>
  generateKeyBetween(before, after)

/** `count` ascending keys for a new list, or for the end of one whose last key is given. */
export const orderKeys = (count: number, last: string | null = null): string[] =>
  generateNKeysBetween(last, null, count)
