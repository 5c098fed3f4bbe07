<script setup lang="ts">
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
</script>

<template>
  <nav class="chapters" :aria-label="label">
    <RouterLink
      v-for="chapter in chapters"
      :key="chapter.key"
      :to="`${place}/${chapter.key}`"
      :aria-current="chapter.key === here ? 'page' : undefined"
      ><span>{{ chapter.title }}</span
      ><span class="quiet">{{ chapter.count ?? '' }}</span></RouterLink
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
