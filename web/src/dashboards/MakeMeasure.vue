<script setup lang="ts">
import type { SavedQuery } from '@bluestem/core/queries'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Choice from '../parts/Choice.vue'
import RadioButton from 'primevue/radiobutton'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { fieldFigures, type FigureKind, type SavedMeasure } from '@bluestem/core/dashboards'
import { messageOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Sheet from '../parts/Sheet.vue'

/** Naming a figure: what is counted or summed, over which query, and which way is better. */
const { queries } = defineProps<{ queries: readonly SavedQuery[] }>()
const emit = defineEmits<{ close: []; made: [SavedMeasure] }>()
const vocabulary = useVocabulary()
const kinds: readonly [FigureKind, string][] = [
  ['count', 'how many items'],
  ['sum', 'the sum of'],
  ['mean', 'the mean of'],
  ['median', 'the median of'],
  ['percentile', 'a percentile of'],
  ['least', 'the least'],
  ['greatest', 'the greatest'],
]
const [title, query, kind, field, p, unit, better, target, shared, told] = [
  ref(''),
  ref(queries[0]?.id ?? ''),
  ref<FigureKind>('count'),
  ref('estimate'),
  ref(85),
  ref('items'),
  ref<'less' | 'more' | ''>(''),
  ref(''),
  ref<'me' | 'everyone'>('everyone'),
  ref(''),
]
const needsField = computed(() => fieldFigures.includes(kind.value))
const numbers = computed(() =>
  vocabulary.columns.filter(
    (column) => column.type.kind === 'number' && column.leftOf === undefined,
  ),
)

async function make(): Promise<void> {
  told.value = ''
  try {
    const figure = {
      kind: kind.value,
      ...(needsField.value ? { field: field.value } : {}),
      ...(kind.value === 'percentile' ? { p: p.value } : {}),
    }
    emit(
      'made',
      await call('POST /measures', {
        body: {
          title: title.value,
          shared: shared.value,
          content: {
            query: query.value,
            figure,
            unit: unit.value,
            better: better.value || null,
            target: target.value === '' ? null : Number(target.value),
          },
        },
      }),
    )
  } catch (error) {
    told.value = messageOf(error)
  }
}
</script>

<template>
  <Sheet title="New measure" @close="emit('close')">
    <form @submit.prevent="make">
      <label class="field"
        ><span>Title</span><InputText v-model="title" required maxlength="120" autofocus fluid
      /></label>
      <label class="field"
        ><span>Over the answers of</span
        ><Choice
          v-model="query"
          label="Over the answers of"
          :options="
            queries.map((row) => ({
              id: row.id,
              title: `${row.title}${row.shared === 'me' ? ' (only mine)' : ''}`,
            }))
          "
      /></label>
      <div class="row">
        <label class="field grow"
          ><span>It tells</span
          ><Choice
            v-model="kind"
            label="It tells"
            :options="kinds.map(([id, words]) => ({ id: id, title: words }))"
        /></label>
        <label v-if="needsField" class="field grow"
          ><span>Field</span
          ><Choice
            v-model="field"
            label="Field"
            :options="numbers.map((row) => ({ id: row.handle, title: row.title }))"
        /></label>
        <label v-if="kind === 'percentile'" class="field"
          ><span>p</span
          ><InputNumber v-model="p" :min="0" :max="100" :max-fraction-digits="2" fluid
        /></label>
      </div>
      <div class="row">
        <label class="field grow"
          ><span>Unit</span><InputText v-model="unit" maxlength="30" fluid
        /></label>
        <label class="field grow"
          ><span>Better when</span
          ><Choice
            v-model="better"
            label="Better when"
            none="neither"
            :options="[
              { id: 'less', title: 'less' },
              { id: 'more', title: 'more' },
            ]"
        /></label>
        <label class="field grow"
          ><span>Target</span><InputText v-model="target" inputmode="decimal" fluid
        /></label>
      </div>
      <fieldset class="field">
        <legend class="quiet">Shared with</legend>
        <label><RadioButton v-model="shared" name="shared" value="me" /> only me</label>{{ ' '
        }}<label><RadioButton v-model="shared" name="shared" value="everyone" /> everyone</label>
      </fieldset>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <div class="acts">
        <Button type="submit" :disabled="!title.trim() || !query" label="Keep" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  display: flex;
  gap: 18px;
}
.row {
  align-items: flex-end;
}
</style>
