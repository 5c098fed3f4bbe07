import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, type Ref } from 'vue'

/** Rows of a table in a box that scrolls: only those in sight are made, between two fillers. */
export function useRowsInSight<T>(all: () => readonly T[], box: Ref<HTMLElement | undefined>) {
  const virtual = useVirtualizer(
    computed(() => ({
      count: all().length,
      getScrollElement: () => box.value ?? null,
      estimateSize: () => 32,
      overscan: 14,
      initialRect: { width: 600, height: 480 },
    })),
  )
  const rows = computed(() =>
    virtual.value.getVirtualItems().flatMap(({ index }) => {
      const entry = all()[index]
      return entry === undefined ? [] : [{ index, row: entry }]
    }),
  )
  const before = computed(() => virtual.value.getVirtualItems()[0]?.start ?? 0)
  const after = computed(() =>
    Math.max(0, virtual.value.getTotalSize() - (virtual.value.getVirtualItems().at(-1)?.end ?? 0)),
  )

  /** Brings a row into sight and gives it the focus. @returns the row, undefined where there is none */
  async function go(index: number): Promise<T | undefined> {
    const entry = all()[index]
    if (entry === undefined) return undefined
    virtual.value.scrollToIndex(index)
    await nextTick()
    box.value?.querySelector<HTMLElement>(`[aria-rowindex="${index + 2}"]`)?.focus()
    return entry
  }
  return { rows, before, after, go }
}
