import type { Instant } from '@bluestem/core/calendar'
import type { Condition, Property } from '@bluestem/core/queries'
import type { FigureSource } from '../sql/measure.ts'
import type { QueryContext } from '../sql/statement.ts'
import type { MeasureAnswer } from '@bluestem/core/dashboards'

/** A figure over the items that meet a condition, whole and by one property. */
export interface FigureQuestion {
  readonly queryContext: QueryContext
  readonly condition: Condition
  readonly source: FigureSource
  readonly by: Property | undefined
}

/** One value for each step; null where there is none. */
export type Values = (number | null)[]

/** The values of a figure, by group and in total. */
export interface FigureValues {
  /** by the identity of the group; null for items without a value */
  readonly groups: Map<string | null, Values>
  readonly total: Values
  readonly method: MeasureAnswer['method']
}

/** The moments of a course: the end of each step, null for one that lies ahead, and the name of each step by its first day. */
export interface Course {
  readonly ends: readonly (Instant | null)[]
  readonly steps: readonly string[]
}
