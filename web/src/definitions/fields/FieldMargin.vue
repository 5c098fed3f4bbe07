<script setup lang="ts">
import { type Field, isComputed } from '@bluestem/core/definitions'
import Button from 'primevue/button'
import { computed } from 'vue'
import { counted } from '../../parts/words.ts'
import EntryMargin from '../chapter/EntryMargin.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { kindWords, ruleWords } from './fieldWords.ts'
import OptionsUsed from './OptionsUsed.vue'

/** A field: what it is, where it stands, and what can be done with it. */
const { field } = defineProps<{
  field: Field & { readonly id: string }
  /** the types on whose forms it stands, and the projects that have them, in words */
  types: string
  projects: string
}>()
const emit = defineEmits<{ edit: [] }>()
const definitions = useDefinitions()
const filter = computed(
  () =>
    definitions.published.fields[field.id] && {
      op: 'not',
      args: [{ op: 'isNull', args: [{ property: field.handle }] }],
    },
)
const touches = computed(() =>
  isComputed(field.kind)
    ? 'Nothing is stored: it is computed when asked for.'
    : `${counted(definitions.items(field.id), 'item')} hold a value. Its title may change freely: queries name its handle, which never does.`,
)
</script>

<template>
  <EntryMargin
    :id="field.id"
    :title="field.title"
    :sub="field.handle"
    :description="field.description"
    :countable="!isComputed(field.kind)"
    :filter="filter"
    :touches="touches"
  >
    <h3>What it is</h3>
    <div class="line">
      <span>kind</span><span>{{ kindWords(field) }}</span>
    </div>
    <div v-for="[word, value] in ruleWords(field)" :key="word" class="line">
      <span>{{ word }}</span><span :class="{ code: word === 'formula' || word === 'pattern' }">{{
        value
      }}</span>
    </div>
    <div class="line">
      <span>on forms of</span><span>{{ types || 'none' }}</span>
    </div>
    <div class="line">
      <span>in projects</span><span>{{ projects || 'none' }}</span>
    </div>
    <OptionsUsed v-if="field.options" :field="field" />
    <template #acts
      ><template v-if="definitions.mayDefineAll"
        ><Button severity="secondary" @click="emit('edit')" label="Change" /><Button
          severity="secondary"
          @click="definitions.retire('fields', field.id, !field.retired)"
          :label="field.retired ? 'Bring back' : 'Retire'" /></template
    ></template>
  </EntryMargin>
</template>
