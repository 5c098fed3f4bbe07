/** true, false, or null for unknown. */
export type Truth = boolean | null

export const not = (truth: Truth): Truth => (truth === null ? null : !truth)

export const and = (truths: readonly Truth[]): Truth =>
  truths.includes(false) ? false : truths.includes(null) ? null : true

export const or = (truths: readonly Truth[]): Truth =>
  truths.includes(true) ? true : truths.includes(null) ? null : false
