<script setup lang="ts">
import Checkbox from 'primevue/checkbox'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import type { Place } from './places.ts'

/** Where a field stands in a rulebook: a line a type, whether it is on the item, asked when one is made, and required. */
const { rulebook } = defineProps<{ rulebook: string }>()
const places = defineModel<readonly Place[]>({ required: true })

/** What is required stands somewhere, and what stands nowhere is not required. */
function change(type: string, part: Partial<Place>): void {
  places.value = places.value.map((place) => {
    if (place.type !== type) return place
    const next = { ...place, ...part }
    if (part.required === true && !next.item && !next.make) return { ...next, item: true }
    return next.item || next.make ? next : { ...next, required: false }
  })
}
const columns = [
  { part: 'item', title: 'On the item' },
  { part: 'make', title: 'When one is made' },
  { part: 'required', title: 'Required' },
] as const
</script>

<template>
  <DataTable
    :value="[...places]"
    data-key="type"
    table-class="ledger"
    :table-props="{ 'aria-label': `Where it stands in ${rulebook}` }"
    ><Column :header="`In ${rulebook}`"
      ><template #body="{ data: entry }">{{ entry.title }}</template></Column
    >
    <Column v-for="{ part, title } in columns" :key="part" :header="title"
      ><template #body="{ data: entry }"
        ><Checkbox
          binary
          :model-value="entry[part]"
          :aria-label="`${entry.title}: ${title.toLowerCase()}`"
          @update:model-value="
            change(entry.type, { [part]: $event === true })
          " /></template></Column
  ></DataTable>
</template>
