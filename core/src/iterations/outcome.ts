import { Decimal } from 'decimal.js'

/** What an estimate is counted in. */
export type Unit = 'hours' | 'points' | 'days'

/** An item that is in an iteration, or was when the iteration started. */
export interface PlannedItem {
  readonly ref: string
  readonly isDone: boolean
  /** whether it is neither done nor dropped */
  readonly isOpen: boolean
  /** whether it is in the iteration now, or was when that was finished */
  readonly isInside: boolean
  /** whether it was in the iteration when that was started */
  readonly isCommitted: boolean
  readonly unit: Unit
  /** decimal text; null where none is known */
  readonly estimate: string | null
}

/** Items with the sums of their estimates: unlike units are never added. */
export interface Sum {
  readonly refs: readonly string[]
  readonly sums: readonly { readonly unit: Unit; readonly sum: number }[]
  /** how many of them have no estimate */
  readonly unestimated: number
}

export interface Outcome {
  /** what is in it, or was when it was finished */
  readonly inside: Sum
  readonly done: Sum
  readonly open: Sum
  /** what was in it when it was started */
  readonly committed: Sum
  /** what came in after it was started */
  readonly later: Sum
  /** what was committed and was taken out again */
  readonly left: Sum
}

const units: readonly Unit[] = ['hours', 'days', 'points']

/** The estimates of items, by unit. */
export function sumOf(items: readonly PlannedItem[]): Sum {
  const sums = units.flatMap((unit) => {
    const estimates = items.flatMap((item) => (item.unit === unit ? (item.estimate ?? []) : []))
    const sum = estimates.reduce((all, estimate) => all.plus(estimate), new Decimal(0))
    return estimates.length > 0 ? [{ unit, sum: sum.toNumber() }] : []
  })
  return {
    refs: items.map(({ ref }) => ref),
    sums,
    unestimated: items.filter(({ estimate }) => estimate === null).length,
  }
}

/** What became of an iteration: what was meant at its start, what came in and went out since, what is done and what is left. */
export function outcomeOf(items: readonly PlannedItem[]): Outcome {
  const inside = items.filter(({ isInside }) => isInside)
  return {
    inside: sumOf(inside),
    done: sumOf(inside.filter(({ isDone }) => isDone)),
    open: sumOf(inside.filter(({ isOpen }) => isOpen)),
    committed: sumOf(items.filter(({ isCommitted }) => isCommitted)),
    later: sumOf(inside.filter(({ isCommitted }) => !isCommitted)),
    left: sumOf(items.filter(({ isCommitted, isInside }) => isCommitted && !isInside)),
  }
}
