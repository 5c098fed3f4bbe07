<script setup lang="ts">
import type { LabelAnswer } from '@bluestem/core/labels'
import { computed } from 'vue'
import LabelMark from '../../parts/LabelMark.vue'
import type { LongColumn } from '../../parts/longColumn.ts'
import LongLedger from '../../parts/LongLedger.vue'
import { numberWords } from '../../parts/words.ts'
import LastUsed from '../chapter/LastUsed.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** Labels as rows, thousands of them. */
const ticked = defineModel<readonly string[]>('ticked', { required: true })
const { labels, selected } = defineProps<{ labels: readonly LabelAnswer[]; selected?: string }>()
const emit = defineEmits<{ select: [string]; open: [LabelAnswer] }>()
const definitions = useDefinitions()
const living = useLiving()
const mayTick = computed(() => living.keptProjects.length > 0)
const family = (label: LabelAnswer): string =>
  label.family ? (definitions.document.families[label.family]?.title ?? '') : ''
const owner = ({ project }: LabelAnswer): string =>
  project ? (living.projectTitle.get(project) ?? project) : 'everyone'
const named = ({ id }: LabelAnswer): number => definitions.usage.named[id]?.length ?? 0
const lastUse = ({ id }: LabelAnswer): string => definitions.usage.last[id] ?? ''
const columns: readonly LongColumn<LabelAnswer>[] = [
  {
    key: 'label',
    header: 'Label',
    class: 'nowrap',
    by: (entry) => `${family(entry)} ${entry.title}`,
  },
  { key: 'owner', header: 'For', class: 'quiet nowrap', by: owner },
  { key: 'description', header: 'When to use it', class: 'quiet cut' },
  { key: 'items', header: 'Items', isNumber: true, by: ({ id }) => definitions.items(id) },
  { key: 'named', header: 'Named by', isNumber: true, class: 'quiet', by: named },
  { key: 'last', header: 'Last used', isNumber: true, by: lastUse },
]
</script>

<template>
  <LongLedger
    :ticked="mayTick ? ticked : undefined"
    :rows="labels"
    :columns="columns"
    label="Labels"
    :key-of="(row) => row.id"
    :name-of="(row) => row.title"
    :selected="selected"
    :mark="(row) => ({ retired: row.retired })"
    @update:ticked="ticked = $event ?? []"
    @select="emit('select', $event.id)"
    @open="emit('open', $event)"
  >
    <template #label="{ row: { id, title, colour, retired }, row }">
      <LabelMark :label="{ id, title, mark: colour, family: family(row) }" /><small
        v-if="retired"
        class="quiet"
        >retired</small
      >
    </template>
    <template #owner="{ row }">{{ owner(row) }}</template>
    <template #description="{ row }">{{ row.description }}</template>
    <template #items="{ row }">{{ numberWords(definitions.items(row.id)) }}</template>
    <template #named="{ row }">{{ named(row) }}</template>
    <template #last="{ row }"><LastUsed :id="row.id" /></template>
  </LongLedger>
</template>

<style scoped>
:deep(.cut) {
  max-width: 180px;
}
</style>
