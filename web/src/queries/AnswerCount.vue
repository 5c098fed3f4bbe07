<script setup lang="ts">
import type { ItemsAnswer } from '@bluestem/core/queries'
import { computed } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { numberWords } from '../parts/words.ts'

/** How many items answer a query, and how many of which that can’t be told, with why. */
const { answers, filter } = defineProps<{
  answers: ItemsAnswer | undefined
  filter: unknown
  /** whether the query as it stands can be read */
  sound: boolean
}>()
const vocabulary = useVocabulary()
const unknown = computed(() => answers?.cannotTell ?? 0)
const asked = computed(() => JSON.stringify(filter))
const emptyFields = computed(() =>
  vocabulary.columns
    .filter((column) => column.nullable && asked.value.includes(`{"property":"${column.handle}"}`))
    .map((column) => column.title.toLowerCase()),
)
const asksForLimits = computed(() => asked.value.includes('"op":"limit_left"'))
</script>

<template>
  <span class="grow" aria-live="polite"
    ><template v-if="answers"
      ><b class="big">{{ numberWords(answers.total) }}</b>
      {{ answers.total === 1 ? 'answer' : 'answers'
      }}<span v-if="!sound" class="quiet unknown"> · to the last question that could be read</span
      ><span v-else-if="unknown" class="quiet unknown">
        · {{ numberWords(unknown) }} can’t be told:
        <template v-if="emptyFields.length"
          >they lack {{ emptyFields.slice(0, 3).join(' or ') }}</template
        ><template v-else-if="asksForLimits">no clock of that time limit runs</template
        ><template v-else>something is empty</template></span
      ></template
    ></span
  >
</template>

<style scoped>
.big {
  font: 600 25px var(--serif);
}
.unknown {
  margin-left: 6px;
}
</style>
