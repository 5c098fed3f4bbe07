<script setup lang="ts" generic="Row extends { readonly id: string }">
import DataTable from 'primevue/datatable'
import { computed, nextTick, ref } from 'vue'

/**
 * A table of what is defined or kept: a row is selected by focus or click, opened with Enter, and arrows go from row to row. Columns are PrimeVue’s
 * `Column`s in the slot. Of a long list only the rows in sight are made.
 */
const {
  rows,
  label,
  mark,
  many = 40,
} = defineProps<{
  rows: readonly Row[]
  label: string
  /** more classes of a row */ mark?: (row: Row) => unknown
  /** from how many on a list is long */ many?: number
}>()
const selected = defineModel<string>('selected')
const emit = defineEmits<{ open: [Row] }>()
const table = ref<
  InstanceType<typeof DataTable> & {
    $el: HTMLElement
    getVirtualScrollerRef(): { scrollToIndex(index: number): void } | undefined
  }
>()
const long = computed(() => rows.length > many)
const at = computed(() =>
  Math.max(
    0,
    rows.findIndex((one) => one.id === selected.value),
  ),
)

async function go(index: number): Promise<void> {
  if (!rows[index]) return
  const row = (): HTMLElement | null =>
    table.value!.$el.querySelector<HTMLElement>(`tr[data-p-index="${index}"]`)
  if (!row()) {
    table.value!.getVirtualScrollerRef()?.scrollToIndex(index)
    await nextTick()
    await new Promise(requestAnimationFrame)
  }
  row()?.focus()
}

function keys(event: KeyboardEvent, index: number): void {
  if (event.target !== event.currentTarget || event.altKey || event.ctrlKey || event.metaKey) return
  const steps: Record<string, () => unknown> = {
    ArrowDown: () => go(index + 1),
    ArrowUp: () => go(index - 1),
    Home: () => go(0),
    End: () => go(rows.length - 1),
    PageDown: () => go(Math.min(rows.length - 1, index + 12)),
    PageUp: () => go(Math.max(0, index - 12)),
    Enter: () => emit('open', rows[index]!),
  }
  const step = steps[event.key]
  if (!step) return
  event.preventDefault()
  step()
}

/** The library’s own selection would swallow every key on a row, so rows get theirs here. */
const parts = {
  bodyRow: ({ props, context }: { props: { rowData?: Row }; context: { index: number } }) =>
    props.rowData
      ? {
          tabindex: context.index === at.value ? 0 : -1,
          'aria-selected': props.rowData.id === selected.value,
          'aria-rowindex': context.index + 2,
          onFocus: () => {
            selected.value = props.rowData!.id
          },
          onClick: () => {
            selected.value = props.rowData!.id
          },
          onKeydown: (event: KeyboardEvent) => keys(event, context.index),
        }
      : {},
}
</script>

<template>
  <DataTable
    :key="String(long)"
    ref="table"
    class="lines"
    :value="rows as Row[]"
    data-key="id"
    row-hover
    scrollable
    :scroll-height="long ? 'flex' : undefined"
    :virtual-scroller-options="long ? { itemSize: 32, numToleratedItems: 4 } : undefined"
    :row-class="(row: Row) => [{ 'p-datatable-row-selected': row.id === selected }, mark?.(row)]"
    :table-props="{ 'aria-label': label, 'aria-rowcount': rows.length + 1 }"
    :pt="parts"
  >
    <slot />
  </DataTable>
</template>
