<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { useRoute } from 'vue-router'
import { useDefinitions } from './definitions.store.ts'
import DraftStrip from './DraftStrip.vue'
import EditionsChapter from './EditionsChapter.vue'
import FieldsChapter from './FieldsChapter.vue'
import FlowsChapter from './FlowsChapter.vue'
import PrioritiesChapter from './PrioritiesChapter.vue'
import TypesChapter from './TypesChapter.vue'

const definitions = useDefinitions()
const route = useRoute()
const chapters = [
  { key: 'types', title: 'Types', page: TypesChapter, count: () => Object.keys(definitions.document.types).length },
  { key: 'fields', title: 'Fields', page: FieldsChapter, count: () => Object.keys(definitions.document.fields).length },
  { key: 'flows', title: 'Statuses and flows', page: FlowsChapter, count: () => Object.keys(definitions.document.statuses).length },
  { key: 'priorities', title: 'Priorities', page: PrioritiesChapter, count: () => Object.keys(definitions.document.priorities).length },
  { key: 'editions', title: 'Editions', page: EditionsChapter, count: () => definitions.edition?.number ?? 0 },
]
const here = computed(() => chapters.find((chapter) => chapter.key === route.params['chapter']) ?? chapters[1]!)
onMounted(async () => await definitions.load())
</script>

<template>
  <div class="book">
    <DraftStrip v-if="definitions.draft" />
    <div class="spread">
      <nav class="chapters" aria-label="Chapters">
        <RouterLink v-for="chapter in chapters" :key="chapter.key" :to="`/definitions/${chapter.key}`" :aria-current="chapter.key === here.key ? 'page' : undefined"><span>{{ chapter.title }}</span><span class="quiet">{{ definitions.loaded ? chapter.count() : '' }}</span></RouterLink>
      </nav>
      <component :is="here.page" v-if="definitions.loaded" />
    </div>
  </div>
</template>

<style>
.book { flex: 1; min-width: 0; min-height: 0; display: flex; flex-direction: column }
.spread { flex: 1; min-height: 0; display: flex }
.chapters { width: 186px; flex: none; padding: 24px 0 0 var(--edge); font-size: 14px }
.chapters a { display: flex; justify-content: space-between; padding: 4px 0; border-bottom: 1px solid var(--hair); color: var(--ink) }
.chapters [aria-current] { font-weight: 600; color: var(--stem) }
.book .sheet { padding-left: 30px }
.in-draft td:first-child { box-shadow: inset 3px 0 0 var(--leaf) }
.draft-mark { font-size: 12px; color: var(--leaf); margin-left: 6px }
</style>
