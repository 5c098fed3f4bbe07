<script setup lang="ts">
import type { ImportCheck } from '@bluestem/core/exchange'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { counted, numberWords } from '../parts/words.ts'

/** What is wrong with the rows of a file: line, column, what was found and what would do. */
const { check } = defineProps<{ check: ImportCheck }>()
</script>

<template>
  <h2>What is wrong</h2>
  <p class="quiet">
    {{
      check.problemCount > check.problems.length
        ? `the first ${numberWords(check.problems.length)} of ${counted(check.problemCount, 'cell')}; all stand in the file that can be taken out`
        : counted(check.problemCount, 'cell')
    }}
  </p>
  <DataTable
    :value="[...check.problems]"
    table-class="ledger"
    :table-props="{ 'aria-label': 'What is wrong' }"
  >
    <Column header="Line" field="line" class="num" />
    <Column header="Column" class="nowrap">
      <template #body="{ data: row }">{{ row.column ?? 'the row' }}</template>
    </Column>
    <Column header="Found" class="cut">
      <template #body="{ data: row }"
        ><span class="quiet">{{ row.found ?? '' }}</span></template
      >
    </Column>
    <Column header="What is wrong">
      <template #body="{ data: row }"
        >{{ row.message }}
        <span v-if="row.expected" class="quiet">Expected: {{ row.expected }}.</span></template
      >
    </Column>
  </DataTable>
</template>

<style scoped>
h2 {
  margin-top: 22px;
}
</style>
