import type { Condition, Value } from '@bluestem/core/queries'
import type { Binds, QueryContext } from './statement.ts'

/** What the SQL of a function may ask of the compiler that meets it in a condition over one item. */
export interface ItemCompiler {
  readonly queryContext: QueryContext
  readonly binds: Binds
  /** the table of the item in the statement */
  readonly alias: string
  /** The expression of a value. */
  value(value: Value): string
  /** The expression of a whole condition over the same item, such as a remit. */
  condition(condition: Condition): string
  /** The day that a value stands for whatever the item, or undefined. */
  dayKnown(value: Value): string | undefined
  /** The two ends of an interval, or of a day or moment taken as one. */
  ends(value: Value): { start: IntervalEnd; end: IntervalEnd }
}

/** Where an interval begins or ends. */
export type IntervalEnd =
  | { readonly kind: 'open' }
  | { readonly kind: 'day'; readonly day: string }
  | { readonly kind: 'value'; readonly value: Value; readonly nullable: boolean }
