import { asTexts } from '../../known/index.ts'
import type { Instant } from '../../calendar/day.ts'
import type { Vocabulary } from './vocabulary.ts'

/** A value an item holds: text, day, choice identity or decimal as text, an instant as milliseconds, null when empty. */
export type FactValue = string | number | boolean | readonly string[] | null

/** The members of a list that an item holds; of anything else there are none. */
export const membersOf = (value: FactValue | undefined): readonly string[] =>
  Array.isArray(value) ? asTexts(value) : []

/** What an item holds at one time, by handle. Rung, tier, urgency and offsets are derived, not held. */
export type Facts = Readonly<Record<string, FactValue>>

/** One state of an item: it held `facts` from `from` until the next state began. */
export interface ItemState {
  readonly from: Instant
  readonly facts: Facts
  /** who made it: a person's identity, or null for an edition or a program */
  readonly by: string | null
  readonly byEdition: boolean
}

export interface Moment {
  readonly vocabulary: Vocabulary
  readonly zone: string
  /** the moment asked about */
  readonly now: Instant
  /** the identity of the person who asks */
  readonly me: string | null
}
