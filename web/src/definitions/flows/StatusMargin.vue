<script setup lang="ts">
import { entryOf } from '@bluestem/core/known'
import type { Flow } from '@bluestem/core/definitions'
import Button from 'primevue/button'
import { computed } from 'vue'
import { counted, numberWords } from '../../parts/words.ts'
import EntryMargin from '../chapter/EntryMargin.vue'
import { useDefinitions } from '../store/definitions.store.ts'

/** A status as it stands in the flow of a type: what entering it needs, where it is used, and what can be done with it. */
const { status, flow } = defineProps<{
  status: string
  type: string
  flow: Flow
  /** what entering it needs; empty where nothing is asked */
  asks: string
  /** how many items of the type stand in it */
  standing: number
  /** the address of those items */
  items: string
  /** the boards that show it; empty where none does */
  boards: string
  /** whether the flow may be changed */
  may: boolean
}>()
const emit = defineEmits<{ edit: []; require: []; start: []; leaveOut: [] }>()
const definitions = useDefinitions()
const shown = computed(() => entryOf(definitions.document.statuses, status))
const isInFlow = computed(() => flow.statuses.includes(status))
</script>

<template>
  <EntryMargin
    :id="status"
    :title="shown.title"
    :sub="`${shown.phase}${shown.queue ? ', a queue: work lies still in it' : ''}${shown.retired ? ', retired' : ''}`"
    :description="shown.description"
    :filter="{ op: '=', args: [{ property: 'status' }, status] }"
    :touches="`${counted(definitions.items(status), 'item')} would show a new name at once. Queries keep their meaning.`"
  >
    <template v-if="isInFlow"
      ><h3>To enter it</h3>
      <p :class="asks ? '' : 'quiet'">{{ asks || 'nothing is asked' }}</p>
      <p v-if="flow.requirements.get(status)?.says" class="says">
        “{{ flow.requirements.get(status)?.says }}”
      </p></template
    >
    <template #used
      ><div class="line">
        <span>of {{ definitions.document.types[type]?.title }} here</span
        ><span
          ><RouterLink v-if="standing" :to="items">{{ numberWords(standing) }}</RouterLink
          ><template v-else>0</template></span
        >
      </div>
      <div class="line">
        <span>boards</span><span :class="{ warn: !boards }">{{ boards || 'none shows it' }}</span>
      </div></template
    >
    <template #acts>
      <Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="emit('edit')"
        label="Rename or describe"
      />
      <template v-if="may && isInFlow"
        ><Button
          severity="secondary"
          @click="emit('require')"
          label="What entering it needs" /><template v-if="flow.start !== status"
          ><Button severity="secondary" @click="emit('start')" label="Start here" /><Button
            severity="secondary"
            @click="emit('leaveOut')"
            label="Leave out of this flow" /></template
      ></template>
      <Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="definitions.retire('statuses', status, !shown.retired)"
        :label="shown.retired ? 'Bring back' : 'Retire'"
      />
    </template>
  </EntryMargin>
</template>

<style scoped>
.says {
  font: italic 15px/1.4 var(--serif);
}
</style>
