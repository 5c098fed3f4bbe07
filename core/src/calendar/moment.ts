/** A day of the ISO calendar, `YYYY-MM-DD`. Days compare as text. */
export type Day = string

/** An instant in milliseconds since 1970-01-01T00:00:00Z. */
export type Instant = number
