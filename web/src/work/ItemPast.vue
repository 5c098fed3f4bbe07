<script setup lang="ts">
import type { ItemAnswer } from '@bluestem/core/queries'
import type { VersionAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import Slider from 'primevue/slider'
import { computed, ref, watch } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import ValueText from '../parts/ValueText.vue'
import { momentWords } from '../parts/words.ts'
import { differencesOf, givingOf } from './past.ts'

/** The item as of any moment of its history: what differs from now, each value to be had back. */
const { versions, item, mayRestore } = defineProps<{
  /** the latest first */
  versions: readonly VersionAnswer[]
  item: ItemAnswer
  mayRestore: boolean
}>()
const emit = defineEmits<{
  restore: [given: Record<string, unknown>, undo: Record<string, unknown>]
}>()
const session = useSession()
const vocabulary = useVocabulary()
/** how many states after the first; the last is now */
const last = computed(() => versions.length - 1)
const at = ref(last.value)
watch(last, (now, before) => {
  // Whoever looks at now goes on looking at now.
  if (at.value === before) at.value = now
})
const version = computed(() => versions[last.value - at.value])
const isPast = computed(() => at.value < last.value)
const differences = computed(() =>
  isPast.value && version.value
    ? differencesOf(version.value.state, item, vocabulary.vocabulary?.properties ?? [])
    : [],
)
const momentShown = computed(() =>
  isPast.value && version.value ? momentWords(version.value.from, session.now) : 'now',
)
</script>

<template>
  <div v-if="last > 0" class="past">
    <Slider
      v-model="at"
      :min="0"
      :max="last"
      :aria-label="'As of which moment'"
      :pt="{
        handle: { 'aria-valuetext': momentShown },
      }"
    />
    <p v-if="!isPast" class="quiet">as it is now; drag to see it as of any moment</p>
    <template v-else>
      <p role="status">
        As of <b>{{ momentShown }}</b>
        <Button variant="link" label="back to now" @click="at = last" />
      </p>
      <p v-if="differences.length === 0" class="quiet">Nothing given to it was different then.</p>
      <div v-for="difference in differences" :key="difference.property.handle" class="then">
        <span class="quiet">{{ difference.property.title }}</span>
        <span class="value"
          ><ValueText :handle="difference.property.handle" :value="difference.then" settled /><span
            v-if="difference.then === null"
            class="quiet"
            >empty</span
          ></span
        >
        <Button
          v-if="mayRestore"
          variant="link"
          label="restore"
          :aria-label="`Restore ${difference.property.title}`"
          @click="
            emit(
              'restore',
              givingOf(difference.property, difference.then),
              givingOf(difference.property, difference.now),
            )
          "
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.past {
  margin: 12px 6px 14px;
}
.past p {
  margin: 10px 0 4px;
}
.then {
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: baseline;
  padding: 3px 0;
  border-bottom: 1px solid var(--hair);
}
.value {
  overflow-wrap: anywhere;
}
</style>
