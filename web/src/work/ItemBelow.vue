<script setup lang="ts">
import type { OfferedType } from '@bluestem/core/projects'
import type { WholeItemAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { computed, ref } from 'vue'
import { useSession } from '../session/session.store.ts'
import StatusMark from '../parts/StatusMark.vue'
import TypeMark from '../parts/TypeMark.vue'
import AddBelow from './AddBelow.vue'

/** What stands directly below an item; it is broken down line by line: a title, Enter, the next. */
const { item, types, project } = defineProps<{
  item: WholeItemAnswer
  /** the types its project offers */
  types: readonly OfferedType[]
  /** the code of its project */
  project: string
}>()
const emit = defineEmits<{ made: [] }>()
const session = useSession()
const adding = ref(false)

const done = computed(() => item.children.filter((child) => child.status.mark === 'done').length)
const mayBreakDown = computed(
  () => (types.find(({ id }) => id === item.type.id)?.below.length ?? 0) > 0,
)
</script>

<template>
  <section aria-labelledby="below">
    <h2 id="below">
      Below it
      <span v-if="item.children.length" class="quiet"
        >{{ done }} of {{ item.children.length }} done</span
      >
    </h2>
    <DataTable
      v-if="item.children.length"
      :value="[...item.children]"
      data-key="ref"
      table-class="ledger"
      :show-headers="false"
      :table-props="{ 'aria-label': 'Below it' }"
    >
      <Column>
        <template #body="{ data: child }">
          <RouterLink :to="`/work/${child.ref}`" class="quiet nowrap">{{ child.ref }}</RouterLink>
        </template>
      </Column>
      <Column>
        <template #body="{ data: child }">
          <TypeMark :mark="String(child.type.mark)" :title="child.type.title" />
        </template>
      </Column>
      <Column>
        <template #body="{ data: child }">
          <RouterLink :to="`/work/${child.ref}`" class="name">{{ child.title }}</RouterLink>
        </template>
      </Column>
      <Column>
        <template #body="{ data: child }"><StatusMark :status="child.status" /></template>
      </Column>
    </DataTable>
    <p v-else-if="!adding" class="quiet">Nothing stands below it.</p>
    <AddBelow
      v-if="adding"
      class="add"
      :above="item"
      :types="types"
      :project="project"
      :first="item.children.at(-1)?.type.id"
      @made="emit('made')"
      @close="adding = false"
    />
    <Button
      v-else-if="session.mayEdit && mayBreakDown"
      variant="link"
      label="break it down …"
      @click="adding = true"
    />
  </section>
</template>

<style scoped>
h2 .quiet {
  font: 400 13px var(--sans);
  margin-left: 8px;
}
.name {
  color: var(--ink);
}
.add {
  margin-top: 8px;
}
</style>
