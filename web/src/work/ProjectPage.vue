<script setup lang="ts">
import type { OffersAnswer } from '@bluestem/core/projects'
import type { ItemsAnswer, ItemAnswer } from '@bluestem/core/queries'
import Button from 'primevue/button'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import ExportMenu from '../exchange/ExportMenu.vue'
import ItemTable from '../parts/ItemTable.vue'
import type { SortBy } from '../parts/segments.ts'
import { useNotes } from '../parts/notes.store.ts'
import { counted } from '../parts/words.ts'
import { noneChosen } from '../parts/chosen.ts'
import ItemMargin from './ItemMargin.vue'
import MakeHere from './MakeHere.vue'
import MakeItem from './MakeItem.vue'
import ManyBar from './ManyBar.vue'

const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const vocabulary = useVocabulary()
const code = String(route.params['code'])
const offers = ref<OffersAnswer>()
const answers = ref<ItemsAnswer>()
const selected = ref<ItemAnswer>()
const making = ref(false)
const isLineOpen = ref(false)
const chosen = ref(noneChosen)
const openOnly = ref(true)
const order = ref<SortBy[]>([{ by: 'changed', direction: 'down' }])
onMounted(async () => {
  await notes.attempt(async () => {
    offers.value = await call('GET /projects/{code}/offers', { params: { code } })
  })
})
// An address may open the form filled by a template.
const template = computed(() => String(route.query['make'] ?? ''))
watch(
  () => [template.value, offers.value],
  () => {
    if (template.value && offers.value && session.mayEdit) making.value = true
  },
  { immediate: true },
)
function close(): void {
  making.value = false
  if (template.value) void router.replace({ query: {} })
}

const table = ref<InstanceType<typeof ItemTable>>()
whenChanged(() => table.value?.refresh())

const project = computed(() =>
  vocabulary.vocabulary?.projects.find((project) => project.code === code),
)
const filter = computed(() => {
  const inProject = { op: '=', args: [{ property: 'project' }, project.value?.id ?? ''] }
  return openOnly.value
    ? {
        op: 'and',
        args: [inProject, { op: 'in', args: [{ property: 'phase' }, ['idle', 'active']] }],
      }
    : inProject
})
const columns = ['ref', 'type', 'title', 'status', 'priority', 'assignee', 'due']
</script>

<template>
  <section class="sheet fixed">
    <div class="row">
      <div class="grow">
        <h1>{{ project?.title ?? code }}</h1>
        <p class="meta">
          <RouterLink to="/work">Work</RouterLink> / {{ code }} · {{ project?.description }}
          <template v-if="answers"
            >· {{ counted(answers.total, 'item')
            }}<template v-if="order[0]?.by === 'changed'"
              >, the latest change first</template
            ></template
          >
        </p>
      </div>
      <div class="acts">
        <Button
          severity="secondary"
          :aria-pressed="openOnly"
          @click="openOnly = !openOnly"
          :label="openOnly ? 'Show finished too' : 'Only open work'"
        />
        <Button as="router-link" severity="secondary" :to="`/work/${code}/tree`" label="Tree" />
        <Button
          v-if="session.mayEdit"
          as="router-link"
          severity="secondary"
          :to="`/import?project=${code}`"
          label="Bring in"
        />
        <ExportMenu :filter="filter" :columns="columns" :order="order" :name="code" />
        <Button
          v-if="session.mayEdit && offers"
          severity="secondary"
          aria-keyshortcuts="m"
          label="New here"
          @click="isLineOpen = true"
        />
        <Button v-if="session.mayEdit && offers" @click="making = true" label="New item" />
      </div>
    </div>
    <MakeHere
      v-if="session.mayEdit && project"
      v-model="isLineOpen"
      :filter="filter"
      :place="project.title"
      @made="table?.refresh()"
    />
    <ItemTable
      v-if="project"
      ref="table"
      v-bind="session.mayEdit ? { chosen } : {}"
      :label="`Items of ${project.title}`"
      :segments="[{ key: 'all', filter }]"
      :columns="columns"
      :order="order"
      @answered="answers = $event"
      @sort="order = $event"
      @select="selected = $event"
      @update:chosen="chosen = $event ?? noneChosen"
    >
      <template #empty
        ><p class="blank">
          Here the {{ openOnly ? 'open ' : '' }}items of {{ project.title }} would stand. There are
          none{{ openOnly ? '; what is finished can be shown too' : ' yet' }}.
        </p></template
      >
    </ItemTable>
    <p v-else-if="vocabulary.vocabulary" class="blank">
      There is no project {{ code }}, or you may not see it.
      <RouterLink to="/work">All projects</RouterLink>
    </p>
    <ManyBar
      v-if="session.mayEdit && project"
      v-model:chosen="chosen"
      :filter="filter"
      :total="answers?.total ?? 0"
      @done="table?.refresh()"
    />
    <MakeItem
      v-if="making && offers"
      :offers="offers"
      :from="template"
      @close="close"
      @made="router.push(`/work/${$event}`)"
    />
  </section>
  <ItemMargin :item-ref="selected?.ref" />
</template>
