<script setup lang="ts">
import type { Family } from '@bluestem/core/definitions'
import Button from 'primevue/button'
import { computed } from 'vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A family of labels: what it is, its labels, and what can be done with it. */
const { family } = defineProps<{ family: Family & { readonly id: string } }>()
const emit = defineEmits<{ edit: [] }>()
const definitions = useDefinitions()
const living = useLiving()
/** the first of its labels: there may be thousands */
const labels = computed(() =>
  living.labels.filter((label) => label.family === family.id && !label.retired).slice(0, 20),
)
</script>

<template>
  <EntryMargin
    :id="family.id"
    :title="family.title"
    :sub="`an item holds ${family.pick === 'one' ? 'one of them' : 'any number'}`"
    :description="family.description"
    touches=""
  >
    <h3>Its labels</h3>
    <div v-for="entry in labels" :key="entry.id" class="line">
      <span class="label" :data-colour="entry.colour">{{ entry.title }}</span><span>{{
        definitions.items(entry.id)
      }}</span>
    </div>
    <template #acts
      ><Button
        severity="secondary"
        v-if="definitions.mayChange(definitions.rulebook)"
        @click="emit('edit')"
        label="Change" /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="definitions.retire('families', family.id, !family.retired)"
        :label="family.retired ? 'Bring back' : 'Retire'"
    /></template>
  </EntryMargin>
</template>
