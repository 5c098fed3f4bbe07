<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import ChapterList from '../parts/ChapterList.vue'
import { pages } from './pages.ts'
import { elementsOf } from '../parts/elements.ts'
import { readPage } from './readPage.ts'

/** The guide, beside the work it tells of. */
const route = useRoute()
const here = computed(
  () => pages.find((page) => page.key === route.params['page']) ?? firstIn(pages),
)
const Text = (): ReturnType<typeof elementsOf> => elementsOf(readPage(here.value.text))
</script>

<template>
  <div class="spread">
    <ChapterList :chapters="pages" place="/guide" :here="here.key" label="Chapters of the guide" />
    <article class="sheet guide"><Text /></article>
  </div>
</template>

<style scoped>
.spread {
  flex: 1;
  min-width: 0;
  min-height: 0;
  display: flex;
}
.guide {
  padding-left: 30px;
  line-height: 1.55;
}
.guide :deep(:is(p, ul, ol, table, pre)) {
  max-width: 72ch;
}
.guide :deep(p) {
  margin: 8px 0;
}
.guide :deep(h2) {
  margin: 24px 0 4px;
}
.guide :deep(li) {
  margin: 3px 0;
}
.guide :deep(:is(th, td)) {
  text-align: left;
  padding: 4px 18px 4px 0;
  border-bottom: 1px solid var(--hair);
}
.guide :deep(pre) {
  overflow: auto;
  padding: 10px 12px;
  background: var(--wash);
}
</style>
