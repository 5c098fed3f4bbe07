<script setup lang="ts">
import { halves } from '@bluestem/core/known'
import type { LinkAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { computed, ref, watch } from 'vue'
import { call, messageOf, partsOf } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import Choice from '../parts/Choice.vue'
import FindItem from '../parts/FindItem.vue'
import StatusMark from '../parts/StatusMark.vue'
import TypeMark from '../parts/TypeMark.vue'
import { useNotes } from '../parts/notes.store.ts'

/** How an item stands to others: what it waits for, what it holds up; linked in either direction, and ended again. */
const { itemRef, links, kinds } = defineProps<{
  itemRef: string
  links: readonly LinkAnswer[]
  /** the kinds that the rulebook offers, with a name in each direction */
  kinds: readonly { readonly id: string; readonly title: string; readonly inverse: string }[]
}>()
const emit = defineEmits<{ changed: [readonly LinkAnswer[]] }>()
const session = useSession()
const notes = useNotes()
const adding = ref(false)
const relation = ref('')
const refusal = ref('')

const groups = computed(() =>
  [...new Set(links.map(({ words }) => words))].map((words) => ({
    words,
    links: links.filter((link) => link.words === words),
  })),
)
const relations = computed(() =>
  kinds.flatMap(({ id, title, inverse }) => [
    { id: `${id} out`, title },
    ...(inverse === title ? [] : [{ id: `${id} in`, title: inverse }]),
  ]),
)
watch(adding, () => {
  relation.value ||= relations.value[0]?.id ?? ''
  refusal.value = ''
})

async function add(kind: string, direction: 'out' | 'in', to: string): Promise<boolean> {
  try {
    const { links: all } = await call('POST /items/{code}/{number}/links', {
      params: partsOf(itemRef),
      body: { kind, direction, to },
    })
    const before = new Set(links.map(({ id }) => id))
    const made = all.find(({ id }) => !before.has(id))
    if (made)
      notes.show('well', `It ${made.words} ${to}.`, {
        title: 'Undo',
        run: async () => await end(made),
      })
    emit('changed', all)
    return true
  } catch (error) {
    refusal.value = messageOf(error)
    return false
  }
}

async function link(to: string | null): Promise<void> {
  if (to === null) return
  const [kind, direction] = halves(relation.value, ' ')
  if (await add(kind, direction === 'in' ? 'in' : 'out', to)) adding.value = false
}

async function end({ id, kind, direction, ref: to, words }: LinkAnswer): Promise<void> {
  await notes.attempt(async () => {
    const params = { ...partsOf(itemRef), link: String(id) }
    await call('DELETE /items/{code}/{number}/links/{link}', { params })
    emit(
      'changed',
      links.filter((link) => link.id !== id),
    )
    notes.show('well', `It ${words} ${to} no more.`, {
      title: 'Undo',
      run: async () => await add(kind, direction, to),
    })
  })
}
</script>

<template>
  <section aria-labelledby="links">
    <h2 id="links">Linked</h2>
    <template v-for="group in groups" :key="group.words">
      <h3>{{ group.words }}</h3>
      <DataTable
        :value="[...group.links]"
        data-key="id"
        table-class="ledger"
        :show-headers="false"
        :table-props="{ 'aria-label': group.words }"
      >
        <Column>
          <template #body="{ data: entry }"
            ><RouterLink :to="`/work/${entry.ref}`" class="quiet nowrap">{{
              entry.ref
            }}</RouterLink></template
          >
        </Column>
        <Column>
          <template #body="{ data: entry }"
            ><TypeMark :mark="String(entry.type.mark)" :title="entry.type.title"
          /></template>
        </Column>
        <Column>
          <template #body="{ data: entry }"
            ><RouterLink :to="`/work/${entry.ref}`" class="name">{{
              entry.title
            }}</RouterLink></template
          >
        </Column>
        <Column class="nowrap">
          <template #body="{ data: entry }"><StatusMark :status="entry.status" /></template>
        </Column>
        <Column v-if="session.mayEdit">
          <template #body="{ data: entry }"
            ><Button
              variant="link"
              label="end"
              :aria-label="`End: ${group.words} ${entry.ref}`"
              @click="end(entry)"
          /></template>
        </Column>
      </DataTable>
    </template>
    <p v-if="links.length === 0 && !adding" class="quiet">No links yet.</p>
    <div v-if="adding" class="add" @keydown.escape="adding = false">
      <Choice v-model="relation" label="How it stands to the other" :options="relations" />
      <FindItem label="The other item" @chosen="link" />
      <Button variant="link" label="not now" @click="adding = false" />
      <p v-if="refusal" class="told" role="alert">{{ refusal }}</p>
    </div>
    <Button
      v-else-if="session.mayEdit && relations.length"
      variant="link"
      label="link with another …"
      @click="adding = true"
    />
  </section>
</template>

<style scoped>
section {
  margin-top: 20px;
}
h3 {
  margin: 8px 0 0;
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
.name {
  color: var(--ink);
}
</style>
