import { compareText } from '../queries/values/compare.ts'
import { judgeEdit } from '../work/edit.ts'
import { Ground, type KnownItems } from '../work/ground.ts'
import { besidesMoving } from '../work/moving.ts'
import type { Refusal } from '../work/refusal.ts'
import type { WorkRules } from '../work/rules.ts'
import { changeFor } from './change.ts'
import type { BulkChange, BulkRefusal } from './schema.ts'

/** What a change of many items does: how many it changes, how many are like that already, and why others are refused. */
export interface BulkCounts {
  readonly total: number
  readonly changed: number
  readonly same: number
  readonly refused: readonly BulkRefusal[]
  /** what else becomes of items that go to another project */
  readonly besides: readonly BulkRefusal[]
}

/** how many of the items that are refused for one reason are named */
export const mostNamed = 20

/** Why an item is refused, in one text. */
export const reasonOf = (refusal: Refusal): string =>
  refusal.kind === 'refused'
    ? refusal.message
    : refusal.wrong.map(({ message }) => message).join(' ')

/** Gathers items by what is told of them, such as why they are refused, the most frequent first, then as their code points are ordered. */
export class Refusals {
  readonly #refs = new Map<string, string[]>()

  add(ref: string, message: string): void {
    const refs = this.#refs.get(message)
    if (refs) refs.push(ref)
    else this.#refs.set(message, [ref])
  }

  list(): BulkRefusal[] {
    return [...this.#refs]
      .map(([message, refs]) => ({ message, count: refs.length, refs: refs.slice(0, mostNamed) }))
      .sort((a, b) => b.count - a.count || compareText(a.message, b.message))
  }
}

/**
 * Counts what a change would do to items, each judged on the ground that those before it leave behind.
 *
 * @param known the items in the order in which they are changed, and what is around them
 */
export function previewBulk(rules: WorkRules, known: KnownItems, change: BulkChange): BulkCounts {
  const ground = new Ground(known)
  const refs = [...known.items.keys()]
  const refusals = new Refusals()
  const besides = new Refusals()
  let [changed, same] = [0, 0]
  for (const ref of refs) {
    const before = ground.item(ref)
    const judged = judgeEdit(rules, ground, ref, changeFor(rules, change, before))
    if (!judged.ok) {
      refusals.add(ref, reasonOf(judged.refusal))
      continue
    }
    for (const words of besidesMoving(rules, before, judged.after)) besides.add(ref, words)
    ground.accept(judged.after, judged.comment !== undefined)
    if (judged.changed.length > 0 || judged.comment !== undefined) changed += 1
    else same += 1
  }
  return {
    total: refs.length,
    changed,
    same,
    refused: refusals.list(),
    besides: besides.list(),
  }
}
