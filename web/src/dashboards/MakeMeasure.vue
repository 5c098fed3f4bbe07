<script setup lang="ts">
import { computed, ref } from 'vue'
import { fieldFigures, type FigureKind } from '@bluestem/core/dashboards'
import { messageOf, post } from '../api/http.ts'
import type { SavedMeasure, SavedQuery } from '../api/types.ts'
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
const numbers = computed(() => vocabulary.columns.filter((one) => one.type.kind === 'number'))

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
      await post<SavedMeasure>('/measures', {
        title: title.value,
        shared: shared.value,
        content: {
          query: query.value,
          figure,
          unit: unit.value,
          better: better.value || null,
          target: target.value === '' ? null : Number(target.value),
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
        ><span>Title</span><input v-model="title" type="text" required maxlength="120" autofocus
      /></label>
      <label class="field"
        ><span>Over the answers of</span
        ><select v-model="query">
          <option v-for="one in queries" :key="one.id" :value="one.id">
            {{ one.title }}{{ one.shared === 'me' ? ' (only mine)' : '' }}
          </option>
        </select></label
      >
      <div class="row">
        <label class="field grow"
          ><span>It tells</span
          ><select v-model="kind">
            <option v-for="[id, words] in kinds" :key="id" :value="id">{{ words }}</option>
          </select></label
        >
        <label v-if="needsField" class="field grow"
          ><span>Field</span
          ><select v-model="field">
            <option v-for="one in numbers" :key="one.handle" :value="one.handle">
              {{ one.title }}
            </option>
          </select></label
        >
        <label v-if="kind === 'percentile'" class="field"
          ><span>p</span><input v-model.number="p" type="number" min="0" max="100"
        /></label>
      </div>
      <div class="row">
        <label class="field grow"
          ><span>Unit</span><input v-model="unit" type="text" maxlength="30"
        /></label>
        <label class="field grow"
          ><span>Better when</span
          ><select v-model="better">
            <option value="">neither</option>
            <option value="less">less</option>
            <option value="more">more</option>
          </select></label
        >
        <label class="field grow"
          ><span>Target</span><input v-model="target" type="number" step="any"
        /></label>
      </div>
      <fieldset class="field">
        <legend class="quiet">Shared with</legend>
        <label><input v-model="shared" type="radio" value="me" /> only me</label>{{ ' '
        }}<label><input v-model="shared" type="radio" value="everyone" /> everyone</label>
      </fieldset>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <div class="acts">
        <button class="act main" type="submit" :disabled="!title.trim() || !query">Keep</button
        ><button class="act" type="button" @click="emit('close')">Not now</button>
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
