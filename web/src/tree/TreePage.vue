<script setup lang="ts">
import type { OffersAnswer } from '@bluestem/core/projects'
import type { TreeRow } from '@bluestem/core/tree'
import Button from 'primevue/button'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import AsOf from '../parts/AsOf.vue'
import { useNotes } from '../parts/notes.store.ts'
import { counted, numberWords } from '../parts/words.ts'
import ItemMargin from '../work/ItemMargin.vue'
import TreeTable from './TreeTable.vue'
import { useTree } from './useTree.ts'

/** The work of a project as the tree it is: what stands below what, with how much of it is done. */
const route = useRoute()
const router = useRouter()
const code = String(route.params['code'])
const session = useSession()
const notes = useNotes()
const vocabulary = useVocabulary()
const asOf = ref(typeof route.query['as-of'] === 'string' ? route.query['as-of'] : '')
const tree = useTree(code, asOf)
/** the past is only looked at */
const mayChange = computed(() => session.mayEdit && asOf.value === '')
const offers = ref<OffersAnswer>()
const selected = ref<TreeRow>()
const project = computed(() =>
  vocabulary.vocabulary?.projects.find((project) => project.code === code),
)

const load = async (): Promise<void> => void (await notes.attempt(async () => await tree.load()))
onMounted(async () => {
  await load()
  await notes.attempt(async () => {
    offers.value = await call('GET /projects/{code}/offers', { params: { code } })
  })
})
whenChanged(() => void load())
watch(asOf, async (day) => {
  await router.replace({ query: day ? { 'as-of': day } : {} })
  await load()
})

async function turnFinished(): Promise<void> {
  tree.finishedToo.value = !tree.finishedToo.value
  await load()
}

/** Rows of the top that nothing stands below: they are part of nothing larger. */
const loose = computed(
  () =>
    tree.rows.value?.filter(({ parent, below }) => parent === null && below.items === 0).length ??
    0,
)
</script>

<template>
  <section class="sheet fixed">
    <div class="row">
      <div class="grow">
        <h1>{{ project?.title ?? code }}</h1>
        <p class="meta">
          <RouterLink to="/work">Work</RouterLink> /
          <RouterLink :to="`/work/${code}`">{{ code }}</RouterLink> / the tree of its work, in hand
          order
        </p>
      </div>
      <div class="acts">
        <AsOf v-model="asOf" />
        <Button
          severity="secondary"
          :label="tree.isUnfolded.value ? 'Fold all' : 'Unfold all'"
          @click="notes.attempt(tree.turnAll)"
        />
        <Button
          severity="secondary"
          :aria-pressed="tree.finishedToo.value"
          :label="tree.finishedToo.value ? 'Fold what is finished' : 'Show finished too'"
          @click="turnFinished"
        />
        <Button as="router-link" severity="secondary" :to="`/work/${code}`" label="List" />
      </div>
    </div>
    <TreeTable
      v-if="tree.rows.value?.length"
      :tree="tree"
      :label="`The tree of ${project?.title ?? code}`"
      :types="offers?.types ?? []"
      :project="code"
      :may-change="mayChange"
      @select="selected = $event"
      @made="load"
    />
    <p v-else-if="tree.rows.value" class="blank">
      Here the work of {{ project?.title ?? code }} would stand as a tree.
      {{ tree.folded.value ? 'All of it is finished; it can be shown too.' : 'There is none yet.' }}
    </p>
    <p v-if="tree.rows.value" class="quiet foot">
      <span v-if="loose">{{ counted(loose, 'item') }} with nothing above or below</span>
      <span v-if="tree.folded.value"
        >finished over 14 days ago: {{ numberWords(tree.folded.value) }}, folded</span
      >
      <span v-if="tree.isCut.value" class="warn"
        >there is more than is shown; fold branches, or ask a query</span
      >
      <span v-if="mayChange">Alt and the arrows move what is selected; B breaks it down</span>
    </p>
  </section>
  <ItemMargin :item-ref="selected?.ref" />
</template>

<style scoped>
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  margin: 8px 0 0;
}
</style>
