import type { ItemAnswer } from '@bluestem/core/queries'
import type { Ref } from 'vue'
import { allChosen, type Chosen, choosing, isChosen, noneChosen } from './chosen.ts'
import { isItem, type Row } from './segments.ts'

interface Rows {
  readonly rowAt: (index: number) => Row | undefined
  readonly itemOf: (row: Row | undefined) => ItemAnswer | undefined
  readonly load: (row: Extract<Row, { kind: 'item' }>) => Promise<void>
}

/**
 * Choosing rows of a list, one by one or from one to another.
 *
 * @param chosen the rows that are chosen; undefined for a list of which none can be
 */
export function useRowChoices(chosen: Ref<Chosen | undefined>, { rowAt, itemOf, load }: Rows) {
  /** the row from which a stretch is chosen */
  let anchor = 0

  /** Chooses the row, or leaves it out. */
  function turnChoice(index: number): void {
    const item = itemOf(rowAt(index))
    if (!chosen.value || !item) return
    anchor = index
    chosen.value = choosing(chosen.value, [item.ref], !isChosen(chosen.value, item.ref))
  }

  /** Chooses every row from the anchor to another; those that were never in sight are asked for first. */
  async function chooseTo(index: number): Promise<void> {
    const [first, last] = [Math.min(anchor, index), Math.max(anchor, index)]
    const rows = Array.from({ length: last - first + 1 }, (_, step) => rowAt(first + step))
    const items = rows.filter(isItem)
    await Promise.all(items.map(load))
    const refs = items.flatMap((row) => itemOf(row)?.ref ?? [])
    if (chosen.value) chosen.value = choosing(chosen.value, refs, true)
  }

  /** A click chooses one row, with Shift all from the last one to it. */
  function clickChoice(event: MouseEvent, index: number): void {
    if (event.shiftKey) void chooseTo(index)
    else turnChoice(index)
  }

  /** Chooses the rows between two, the first of which is the new anchor. */
  function chooseBetween(from: number, to: number): void {
    anchor = from
    void chooseTo(to)
  }

  /** Whether the item of a row is chosen. */
  function isTaken(row: Row): boolean {
    const item = itemOf(row)
    return chosen.value !== undefined && item !== undefined && isChosen(chosen.value, item.ref)
  }

  /** What keys choose, while the row at a place is the current one. */
  function keysAt(index: number, event: KeyboardEvent): Record<string, () => void> {
    if (!chosen.value) return {}
    return {
      ' ': () => turnChoice(index),
      Escape: () => (chosen.value = noneChosen),
      ...(event.ctrlKey || event.metaKey ? { a: () => (chosen.value = allChosen) } : {}),
    }
  }

  return { clickChoice, chooseBetween, isTaken, keysAt }
}
