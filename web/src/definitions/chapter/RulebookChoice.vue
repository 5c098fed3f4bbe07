<script setup lang="ts">
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { restingRulebooks } from '@bluestem/core/definitions'
import Choice from '../../parts/Choice.vue'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** The rulebook that a chapter is read in, and whom a change in it reaches. It stands in the address, so that a reload and a link keep it. */
const { bare = false } = defineProps<{
  /** where the chapter tells whom it reaches itself */
  bare?: boolean
}>()
const definitions = useDefinitions()
const living = useLiving()
const route = useRoute()
const router = useRouter()

/** The rulebook itself and those that extend it, so that its words hold in them too. */
const reached = computed(() => restingRulebooks(definitions.document, definitions.rulebook))
const extending = computed(() => reached.value.length - 1)
const projects = computed(() =>
  Object.entries(definitions.document.projects)
    .filter(([, rulebook]) => reached.value.includes(rulebook))
    .map(([project]) => living.projectTitle.get(project) ?? project),
)

watch(
  () => definitions.rulebook,
  (rulebook) => {
    const isFirst = rulebook === definitions.rulebooks[0]?.id && !route.query['rulebook']
    if (isFirst || route.query['rulebook'] === rulebook) return
    void router.replace({ query: { ...route.query, rulebook } })
  },
  { immediate: true },
)
</script>

<template>
  <Choice
    v-model="definitions.rulebook"
    class="inline"
    label="Rulebook"
    :options="definitions.rulebooks.map((row) => ({ id: row.id, title: row.title }))"
    inline
  /><template v-if="!bare"
    ><span :title="projects.join(', ')">{{ counted(projects.length, 'project') }}</span
    ><span
      v-if="extending > 0"
      class="warn"
      title="What is changed here holds there too, unless they say otherwise."
      >{{ counted(extending, 'rulebook') }} {{ extending === 1 ? 'extends' : 'extend' }} it</span
    ></template
  >
</template>
