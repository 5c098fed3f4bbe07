import { Decimal } from 'decimal.js'

type Unit = 'hours' | 'points' | 'days'

/** What stands below an item in one project, whose estimates all have one unit; sums are decimal text. */
export interface BelowInProject {
  readonly project: number
  readonly items: number
  readonly done: number
  readonly all: string
  readonly finished: string
  /** whether any of them has an estimate */
  readonly estimated: boolean
}

export interface BelowSums {
  readonly items: number
  readonly done: number
  readonly estimates: { readonly unit: Unit; readonly all: number; readonly done: number }[]
}

/** What stands below an item, over all projects: counts together, estimates by their units. */
export function sumBelow(
  parts: readonly BelowInProject[],
  unitOf: (project: number) => Unit,
): BelowSums {
  const sums = new Map<Unit, { all: Decimal; done: Decimal }>()
  for (const { project, all, finished, estimated } of parts) {
    if (!estimated) continue
    const unit = unitOf(project)
    const before = sums.get(unit) ?? { all: new Decimal(0), done: new Decimal(0) }
    sums.set(unit, { all: before.all.plus(all), done: before.done.plus(finished) })
  }
  return {
    items: parts.reduce((sum, part) => sum + part.items, 0),
    done: parts.reduce((sum, part) => sum + part.done, 0),
    estimates: [...sums].map(([unit, { all, done }]) => ({
      unit,
      all: all.toNumber(),
      done: done.toNumber(),
    })),
  }
}
