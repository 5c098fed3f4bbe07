<script setup lang="ts">
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import Button from 'primevue/button'
import { watch } from 'vue'
import { useFolding } from './folding.ts'

/** The chapters of a place, beside the one that is open. */
export interface ListedChapter {
  readonly key: string
  readonly title: string
  readonly count?: number | null
}
const { chapters, place, here, label } = defineProps<{
  chapters: readonly ListedChapter[]
  /** the address of the place, below which each chapter stands by its key */
  place: string
  here: string
  label: string
}>()
const { isNarrow, folded, turn, giveWay } = useFolding('chapters')
watch(() => here, giveWay)
</script>

<template>
  <nav :class="['chapters', { folded }]" :aria-label="label">
    <Button
      v-if="isNarrow"
      variant="text"
      severity="secondary"
      size="small"
      class="quiet fold"
      :aria-expanded="!folded"
      :aria-label="folded ? 'Unfold the chapters' : 'Fold the chapters away'"
      @click="turn"
    >
      <component :is="folded ? ChevronRight : ChevronLeft" class="icon" />
    </Button>
    <template v-if="!folded"
      ><RouterLink
        v-for="chapter in chapters"
        :key="chapter.key"
        :to="`${place}/${chapter.key}`"
        :aria-current="chapter.key === here ? 'page' : undefined"
        ><span>{{ chapter.title }}</span
        ><span class="quiet">{{ chapter.count ?? '' }}</span></RouterLink
      ></template
    >
  </nav>
</template>

<style scoped>
.chapters {
  width: 196px;
  flex: none;
  padding: 24px 0 0 var(--edge);
  font-size: 14px;
  overflow: auto;
}
.chapters.folded {
  width: 34px;
  padding: 16px 0 0 6px;
}
.fold {
  font-size: 18px;
  line-height: 1;
}
.chapters a {
  display: flex;
  justify-content: space-between;
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
  color: var(--ink);
}
.chapters [aria-current] {
  font-weight: 600;
  color: var(--stem);
}
</style>
