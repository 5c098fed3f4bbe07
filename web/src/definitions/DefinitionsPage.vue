<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import { computed, onBeforeUnmount, onMounted, watch } from 'vue'
import { useRoute } from 'vue-router'
import { onChange } from '../api/live.ts'
import { useSession } from '../session/session.store.ts'
import { chapters } from './chapters.ts'
import { useDefinitions } from './store/definitions.store.ts'
import { useLiving } from './store/living.store.ts'
import ChapterList from '../parts/ChapterList.vue'
import DraftStrip from './draft/DraftStrip.vue'
import ReviewPage from './draft/ReviewPage.vue'

const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const route = useRoute()
// An address may say in which rulebook a chapter is opened.
watch(
  () => route.query['rulebook'],
  (rulebook) => {
    if (typeof rulebook === 'string') definitions.rulebook = rulebook
  },
  { immediate: true },
)
/** Setting up is shown until it is done, and whoever goes there finds it afterwards too. */
const showsStart = computed(() => session.isSettingUp || route.params['chapter'] === 'start')
const shown = computed(() =>
  chapters.filter(
    ({ key, forAdministrators }) =>
      (!forAdministrators || session.mayDefine) && (key !== 'start' || showsStart.value),
  ),
)
/** A review is of the draft at hand, whatever chapter its changes are from. */
const reviews = computed(() => route.params['chapter'] === 'review')
const here = computed(
  () =>
    shown.value.find((chapter) => chapter.key === route.params['chapter']) ??
    certain(
      shown.value.find((chapter) => chapter.key === 'fields'),
      'chapter of fields',
    ),
)
const listed = computed(() => {
  const { document, edition, loaded } = definitions
  const counted = { document, edition: edition?.number ?? 0, living }
  return shown.value.map(({ key, title, count }) => ({
    key,
    title,
    count: loaded ? (count?.(counted) ?? null) : null,
  }))
})
const reload = async (): Promise<void> => {
  await Promise.all([definitions.load(), living.load()])
}
onMounted(reload)
// Changes of definitions are told as they happen; of items, which are counted here, they are not.
watch(
  () => route.params['chapter'],
  async (chapter) => {
    if (chapter !== undefined) await definitions.countUse()
  },
)
// Editions, drafts and labels of others show at once; one's own were shown already.
const stop = onChange(({ kind }) => {
  if (['edition', 'draft', 'mapping', 'project', 'everything'].includes(kind))
    void definitions.load()
  if (['label', 'component', 'template', 'calendar', 'team', 'project', 'person'].includes(kind))
    void living.load()
})
onBeforeUnmount(stop)
</script>

<template>
  <div class="book">
    <DraftStrip v-if="definitions.loaded && !reviews" />
    <div v-if="reviews" class="spread">
      <ReviewPage v-if="definitions.draft && living.loaded" :draft="definitions.draft" />
      <section v-else-if="definitions.loaded && !definitions.atHand" class="sheet">
        <p class="blank">
          No draft is open. <RouterLink to="/definitions">To the definitions</RouterLink>
        </p>
      </section>
    </div>
    <div v-else class="spread">
      <ChapterList :chapters="listed" place="/definitions" :here="here.key" label="Chapters" />
      <component :is="here.page" v-if="definitions.loaded && living.loaded" />
    </div>
  </div>
</template>

<style>
.book {
  flex: 1;
  min-width: 0;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.spread {
  flex: 1;
  min-height: 0;
  display: flex;
}
.book .sheet {
  padding-left: 30px;
}
.book .inline {
  width: auto;
  max-width: 220px;
  min-height: 26px;
  padding: 1px 4px;
}
.book .narrow {
  width: 170px;
  min-height: 26px;
  padding: 1px 8px;
}
.book .retired td:not(:last-child) {
  color: var(--quiet);
  text-decoration: line-through;
}
.in-draft td:first-child {
  box-shadow: inset 3px 0 0 var(--leaf);
}
.draft-mark {
  font-size: 12px;
  color: var(--leaf);
  margin-left: 6px;
}
.nowrap {
  white-space: nowrap;
}
.book .scrolls {
  flex: 1;
  min-height: 120px;
  overflow: auto;
  contain: strict;
}
.book .scrolls thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 1;
}
.book .scrolls .filler td {
  height: 0;
  padding: 0;
  border: 0;
}
</style>
