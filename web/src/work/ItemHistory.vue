<script setup lang="ts">
import type { VersionAnswer, WholeItemAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import { momentWords } from '../parts/words.ts'
import type { ItemGiven } from './changing.ts'
import HistoryWords from '../parts/HistoryWords.vue'
import { changeBack } from './past.ts'

const { item, versions } = defineProps<{
  item: WholeItemAnswer
  /** the latest first */
  versions: readonly VersionAnswer[]
  isNew: (version: VersionAnswer) => boolean
}>()
const emit = defineEmits<{ change: [ItemGiven, ItemGiven] }>()
const session = useSession()
const vocabulary = useVocabulary()

/** What takes back each of one’s own changes that nobody changed since, by the place in the history. */
const backs = computed(() =>
  versions.map(({ by, state }, place) => {
    const before = versions[place + 1]
    if (!session.mayEdit || by.id !== session.session?.person.id || !before) return undefined
    return changeBack(before.state, state, item, vocabulary.vocabulary?.properties ?? [])
  }),
)

function undo(place: number): void {
  const back = backs.value[place]
  if (back) emit('change', back.given, back.seen)
}
</script>

<template>
  <div v-for="(version, place) in versions" :key="version.from" class="line">
    <span class="quiet when"
      >{{ momentWords(version.from, session.now)
      }}<b v-if="isNew(version)" class="new">new</b></span
    ><span class="what"
      ><HistoryWords :version="version" />{{ ' '
      }}<Button
        v-if="backs[place]"
        variant="link"
        class="small"
        label="undo"
        :aria-label="`Undo what changed ${momentWords(version.from, session.now)}`"
        @click="undo(place)"
    /></span>
  </div>
</template>

<style scoped>
.when {
  flex: none;
  width: 86px;
}
.new {
  display: block;
  color: var(--leaf);
}
.what {
  flex: 1;
  text-align: left;
}
.line > .what:last-child {
  text-align: left;
}
.small {
  font-size: 12.5px;
  font-family: var(--sans);
}
</style>
