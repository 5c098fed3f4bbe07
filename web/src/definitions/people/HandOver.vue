<script setup lang="ts">
import type { PersonAnswer } from '@bluestem/core/people'
import { computed, ref } from 'vue'
import Choice from '../../parts/Choice.vue'
import Sheet from '../../parts/Sheet.vue'
import CarryOut from '../../work/CarryOut.vue'
import PreviewWords from '../../work/PreviewWords.vue'
import { usePreview } from '../../work/usePreview.ts'
import { useLiving } from '../store/living.store.ts'

/** Gives the open work of somebody to somebody else, in one act that can be undone. What is finished stays theirs. */
const { person } = defineProps<{ person: PersonAnswer }>()
const emit = defineEmits<{ close: [] }>()
const living = useLiving()
const to = ref('')
const others = computed(() =>
  living.people
    .filter((entry) => entry.active && entry.id !== person.id && entry.role !== 'viewer')
    .map(({ id, name }) => ({ id, title: name })),
)
const items = {
  filter: {
    op: 'and',
    args: [
      { op: '=', args: [{ property: 'assignee' }, person.id] },
      { op: 'in', args: [{ property: 'phase' }, ['idle', 'active']] },
    ],
  },
  kept: true as const,
  except: [],
}
const change = computed(() => ({ set: { assignee: to.value } }))
const { preview, wrong, isLooking } = usePreview(
  () => items,
  () => (to.value ? change.value : undefined),
)
</script>

<template>
  <Sheet :title="`Hand over the open work of ${person.name}`" @close="emit('close')">
    <p class="quiet">
      Every item that is {{ person.name }}’s and neither done nor dropped becomes somebody else’s.
      History keeps who had it; what is finished stays as it is.
    </p>
    <label class="field">
      <span>To</span>
      <Choice v-model="to" label="To" none="whom …" domain="person" :options="others" />
    </label>
    <PreviewWords :preview="preview" :wrong="wrong" :is-looking="isLooking" :is-empty="!to" />
    <CarryOut
      :items="items"
      :change="change"
      :total="preview?.total ?? 0"
      :changed="wrong ? 0 : (preview?.changed ?? 0)"
      title="Hand over"
      @close="emit('close')"
      @done="emit('close')"
    />
  </Sheet>
</template>
