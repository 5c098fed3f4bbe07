<script setup lang="ts">
import type { BulkPreviewAnswer } from '@bluestem/core/bulk'
import { computed } from 'vue'
import { counted, numberWords } from '../parts/words.ts'
import BulkRefusals from './BulkRefusals.vue'

/** What a change of many items would do, in words, before anything is done. */
const { preview, wrong, isLooking, isEmpty } = defineProps<{
  preview: BulkPreviewAnswer | undefined
  wrong: string
  isLooking: boolean
  /** whether nothing is asked for yet */
  isEmpty: boolean
}>()
const refusedCount = computed(() =>
  (preview?.refused ?? []).reduce((sum, entry) => sum + entry.count, 0),
)
</script>

<template>
  <div class="outcome" aria-live="polite">
    <p v-if="wrong" class="warn" role="alert">{{ wrong }}</p>
    <p v-else-if="preview">
      <b>{{ counted(preview.changed, 'item') }}</b>
      {{ preview.changed === 1 ? 'changes' : 'change'
      }}<template v-if="preview.same"
        >, {{ numberWords(preview.same) }} {{ preview.same === 1 ? 'is' : 'are' }} like that
        already</template
      ><template v-if="refusedCount"
        >,
        <span class="warn"
          >{{ numberWords(refusedCount) }} refused and left as they are</span
        ></template
      >.
    </p>
    <p v-else-if="isEmpty" class="quiet">What would change is told here before anything is done.</p>
    <p v-else class="quiet">{{ isLooking ? 'Looking at each item …' : '' }}</p>
    <BulkRefusals v-if="preview && !wrong" :refused="preview.refused" />
    <BulkRefusals
      v-if="preview && !wrong"
      calm
      label="What else becomes of them"
      :refused="preview.besides"
    />
  </div>
</template>

<style scoped>
.outcome {
  min-height: 44px;
  margin: 10px 0;
}
</style>
