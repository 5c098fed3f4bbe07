<script setup lang="ts">
import type { LabelAnswer } from '@bluestem/core/labels'
import Button from 'primevue/button'
import { computed } from 'vue'
import { counted } from '../../parts/words.ts'
import EntryMargin from '../chapter/EntryMargin.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A label: what it is, which others say nearly the same, and what can be done with it. */
const { label } = defineProps<{
  label: LabelAnswer
  /** near duplicates, the surest first */
  twins: readonly LabelAnswer[]
}>()
const emit = defineEmits<{ select: [string]; merge: []; edit: []; lift: []; retire: [] }>()
const definitions = useDefinitions()
const living = useLiving()
/** labels everyone shares are the administrators', those of a project its keepers' */
const mayChange = computed(() => living.keeps(label.project))
const sub = computed(() =>
  [
    label.family && definitions.document.families[label.family]?.title,
    label.project ? `only in ${living.projectTitle.get(label.project)}` : 'for everyone',
    label.retired && 'retired',
  ]
    .filter(Boolean)
    .join(', '),
)
</script>

<template>
  <EntryMargin
    :id="label.id"
    :title="label.title"
    :sub="sub"
    :description="label.description"
    :filter="{ op: 'a_contains', args: [{ property: 'labels' }, [label.id]] }"
    touches=""
    living
  >
    <template v-if="twins.length"
      ><h3>Says nearly the same</h3>
      <div v-for="twin in twins" :key="twin.id" class="line">
        <Button variant="link" @click="emit('select', twin.id)" :label="twin.title" /><span>{{
          counted(definitions.items(twin.id), 'item')
        }}</span>
      </div>
      <Button
        severity="secondary"
        class="twins"
        v-if="mayChange"
        @click="emit('merge')"
        label="Make them one …"
    /></template>
    <template #acts
      ><template v-if="mayChange"
        ><Button severity="secondary" @click="emit('edit')" label="Change" /><Button
          severity="secondary"
          v-if="label.project && definitions.mayDefineAll"
          @click="emit('lift')"
          label="Lift to everyone" /><Button
          severity="secondary"
          @click="emit('retire')"
          :label="label.retired ? 'Bring back' : 'Retire'" /></template
    ></template>
  </EntryMargin>
</template>

<style scoped>
.twins {
  margin-top: 8px;
}
</style>
