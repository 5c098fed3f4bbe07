import { sameHeld } from '../queries/values/compare.ts'
import type { FactValue } from '../queries/tree/facts.ts'

type Values = Readonly<Record<string, unknown>>

/** What taking a change back sets, or what was changed again since and keeps it from being taken back. */
export type Undone =
  | { readonly ok: true; readonly values: Values }
  | { readonly ok: false; readonly changedSince: readonly string[] }

const comparable = (value: unknown): FactValue =>
  // Rows hold what facts hold, but moments as dates.
  value instanceof Date ? value.getTime() : ((value ?? null) as FactValue)

const same = (a: unknown, b: unknown): boolean => sameHeld(comparable(a), comparable(b))

/**
 * Takes a change of an item back: every value that it changed gets what it was before, as long as nobody changed the same since. What
 * others changed beside it stays.
 *
 * @param before  what the item held before the change
 * @param written what the change made of it
 * @param present what it holds now
 * @param follows names of values that follow from others, such as when it was done: they go back with the rest and hold up nothing
 */
export function undo(
  before: Values,
  written: Values,
  present: Values,
  follows: ReadonlySet<string> = new Set(),
): Undone {
  const changed = Object.keys(written).filter((name) => !same(before[name], written[name]))
  const changedSince = changed.filter(
    (name) => !follows.has(name) && !same(written[name], present[name]),
  )
  if (changedSince.length > 0) return { ok: false, changedSince }
  return { ok: true, values: Object.fromEntries(changed.map((name) => [name, before[name]])) }
}
