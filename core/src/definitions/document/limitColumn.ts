const prefix = 'left_'

/** The column in which lists tell the hours that are left of a time limit. */
export const columnOfLimit = (limit: string): string => `${prefix}${limit}`

/** The time limit that a column tells of, where it is one of these. */
export const limitOfColumn = (column: string): string | undefined =>
  column.startsWith(`${prefix}tl_`) ? column.slice(prefix.length) : undefined
