<script setup lang="ts">
import type { Widget } from '@bluestem/core/dashboards'
import type { SavedQuery } from '@bluestem/core/queries'
import { sortText } from '@bluestem/core/views'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { call } from '../../api/http.ts'
import TypeMark from '../../parts/TypeMark.vue'
import ValueText from '../../parts/ValueText.vue'
import { valueOf } from '../../parts/valueOf.ts'
import { counted } from '../../parts/words.ts'
import { useLoaded } from '../loaded.ts'
import NotYet from '../NotYet.vue'

/** The first answers of a query. */
const { widget, query, round } = defineProps<{
  widget: Widget
  query: SavedQuery
  round?: number | undefined
}>()
const { answer: list, told } = useLoaded(
  async () =>
    await call('POST /items/search', {
      body: {
        filter: query.content.filter,
        kept: true,
        sort: sortText(query.content.order),
        fields: 'title,status,priority,due,assignee',
        limit: 40,
      },
    }),
  () => round,
)
</script>

<template>
  <div v-if="list" class="list" tabindex="0" :aria-label="widget.title">
    <p class="quiet">
      <RouterLink :to="`/queries/${query.id}`">{{ counted(list.total, 'answer') }}</RouterLink>
    </p>
    <DataTable
      :value="[...list.items]"
      data-key="ref"
      table-class="ledger"
      :show-headers="false"
      :table-props="{ 'aria-label': 'Answers' }"
      ><Column
        ><template #body="{ data: item }"
          ><span class="quiet ref">{{ item.ref }}</span></template
        ></Column
      >
      <Column
        ><template #body="{ data: item }"
          ><span class="mark"
            ><TypeMark :mark="String(item.type.mark)" :title="item.type.title" /></span></template
      ></Column>
      <Column class="cut"
        ><template #body="{ data: item }"
          ><RouterLink :to="`/work/${item.ref}`">{{ item.title }}</RouterLink></template
        ></Column
      >
      <Column class="num"
        ><template #body="{ data: item }"
          ><ValueText handle="due" :value="valueOf(item, 'due')" /></template></Column
    ></DataTable>
    <p v-if="list.items.length === 0" class="quiet">Nothing answers, which may be just right.</p>
  </div>
  <NotYet v-else :told="told" />
</template>

<style scoped>
.list {
  overflow: auto;
  flex: 1;
  position: relative;
}
.list p {
  margin: 2px 0;
}
.ref {
  width: 84px;
}
.mark {
  width: 34px;
}
.list table {
  table-layout: fixed;
}
.list .num {
  width: 96px;
}
.list .cut {
  max-width: 0;
}
.list a {
  color: var(--ink);
}
</style>
