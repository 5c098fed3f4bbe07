import { entryOf } from '@bluestem/core/known'
import type { Flow } from '@bluestem/core/definitions'
import { definitions } from './definitions.ts'

/** The zone of the demo. */
export const zone = 'Europe/Zurich'

/** A day in milliseconds, where clocks do not matter. */
export const day = 86_400_000

/** One act on an item, in the words of the API; `comment` instead of an edit says something, `deleted` throws it away. */
export interface Act {
  readonly at: number
  readonly by: number
  readonly edit?: Readonly<Record<string, unknown>>
  readonly comment?: string
  readonly deleted?: true
}

/** Everything that happened to one item: how it was made, and what was done to it later, in order of time. */
export interface Life {
  readonly project: string
  readonly number: number
  readonly type: string
  readonly parent: string | null
  readonly made: Act & { readonly edit: Readonly<Record<string, unknown>> }
  readonly acts: readonly Act[]
}

/** An item that is about to be made. */
export interface Making {
  readonly project: string
  readonly type: string
  readonly number: number
  readonly at: number
  readonly now: number
  readonly parent: string | null
  readonly flow: Flow
  readonly today: string
}

/** How long work of each type usually stays in a status of each phase, in days. */
export const stays: Record<string, { readonly idle: number; readonly active: number }> = {
  defect: { idle: 5, active: 5 },
  job: { idle: 9, active: 7 },
  package: { idle: 12, active: 70 },
  programme: { idle: 10, active: 200 },
  inspection: { idle: 8, active: 3 },
  finding: { idle: 6, active: 12 },
  change: { idle: 11, active: 6 },
  check: { idle: 6, active: 2 },
}

export const tier = (type: string): number => entryOf(definitions.types, `ty_${type}`).tier

export const personId = (number: number): string => `pe_${String(number).padStart(2, '0')}`
