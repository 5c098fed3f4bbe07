<script setup lang="ts">
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import { ref, watch } from 'vue'
import type { ScoreAnswer } from '@bluestem/core/definitions'
import { messageOf, call } from '../../api/http.ts'

/** The order a score would give, before it is kept. */
const { formula, empty } = defineProps<{ formula: string; empty: number | null }>()
const preview = ref<ScoreAnswer>()
const told = ref('')
let timer = 0
watch(
  () => [formula, empty],
  () => {
    window.clearTimeout(timer)
    timer = window.setTimeout(async () => {
      if (!formula.trim()) return void (preview.value = undefined)
      try {
        preview.value = await call('POST /definitions/scores/preview', { body: { formula, empty } })
        told.value = ''
      } catch (error) {
        told.value = messageOf(error)
      }
    }, 250)
  },
  { immediate: true },
)
</script>

<template>
  <div class="preview" aria-live="polite">
    <p v-for="error in preview?.errors" :key="error.message" class="told">
      {{ error.message }}{{ error.nearest ? ` Did you mean ${error.nearest}?` : '' }}
    </p>
    <p v-if="told" class="told">{{ told }}</p>
    <p v-if="preview?.items.length" class="quiet">
      The first of all open work by this score{{
        preview.without ? `; ${preview.without} would have none` : ''
      }}
    </p>
    <DataTable
      v-if="preview?.items.length"
      :value="[...preview.items]"
      data-key="ref"
      table-class="ledger"
      :show-headers="false"
      :table-props="{ 'aria-label': 'The first of all open work by this score' }"
      ><Column
        ><template #body="{ data: item }"
          ><span class="quiet">{{ item.ref }}</span></template
        ></Column
      >
      <Column
        ><template #body="{ data: item }">{{ item.title }}</template></Column
      >
      <Column class="num"
        ><template #body="{ data: item }"
          ><b>{{ item.score ?? '–' }}</b></template
        ></Column
      ></DataTable
    >
  </div>
</template>

<style scoped>
.preview {
  margin-bottom: 12px;
}
</style>
