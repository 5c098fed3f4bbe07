<script setup lang="ts">
import type { OfferedType } from '@bluestem/core/projects'
import type { WholeItemAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { call, messageOf } from '../api/http.ts'
import { useSession } from '../app/session.store.ts'
import Choice from '../parts/Choice.vue'
import StatusMark from '../parts/StatusMark.vue'
import TypeMark from '../parts/TypeMark.vue'
import { vFocus } from '../parts/vFocus.ts'

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
const title = ref('')
const refusal = ref('')
const busy = ref(false)

const done = computed(() => item.children.filter((child) => child.status.mark === 'done').length)
const below = computed(() => {
  const own = types.find(({ id }) => id === item.type.id)
  return types
    .filter(({ id }) => own?.below.includes(id))
    .map(({ id, title: name, mark }) => ({ id, title: name, mark }))
})
const chosen = ref('')
/** What was made last below it, else the first that may be. */
const type = computed({
  get: () => chosen.value || item.children.at(-1)?.type.id || below.value[0]?.id || '',
  set: (id: string) => {
    chosen.value = id
  },
})

async function add(): Promise<void> {
  if (title.value.trim() === '' || busy.value) return
  busy.value = true
  refusal.value = ''
  try {
    await call('POST /items', {
      body: { project, type: type.value, title: title.value, parent: item.ref },
    })
    title.value = ''
    emit('made')
  } catch (error) {
    refusal.value = messageOf(error)
  }
  busy.value = false
}
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
    <form v-if="adding" class="add" @submit.prevent="add" @keydown.escape="adding = false">
      <Choice v-model="type" label="Type of what stands below" domain="type" :options="below" />
      <InputText
        v-model="title"
        aria-label="Title of what stands below"
        placeholder="its title, then Enter for the next"
        maxlength="300"
        v-focus
        fluid
      />
      <Button variant="link" label="done" @click="adding = false" />
      <p v-if="refusal" class="told" role="alert">{{ refusal }}</p>
    </form>
    <Button
      v-else-if="session.mayEdit && below.length"
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
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
.add .told {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
