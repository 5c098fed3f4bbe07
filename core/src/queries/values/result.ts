import type { Day, Instant } from '../../calendar/day.ts'
import type { Decimal } from './decimal.ts'

/** One end of an interval: a day, an instant, or open (earlier or later than everything). */
export type End =
  | { readonly kind: 'day'; readonly day: Day }
  | { readonly kind: 'instant'; readonly instant: Instant }
  | { readonly kind: 'open' }

/** An interval that includes both its ends. An instant or a day alone is an interval whose ends are the same. */
export interface Interval {
  readonly start: End
  readonly end: End
}

/** What a value comes to; a member of a list that is not known, as an empty `me()`, is null. */
export type Result =
  Decimal | string | number | boolean | readonly (string | null)[] | Interval | null
