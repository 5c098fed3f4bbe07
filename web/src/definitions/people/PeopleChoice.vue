<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Checkbox from 'primevue/checkbox'
import { computed, ref } from 'vue'
import { useLiving } from '../store/living.store.ts'

/** Which people: each a tick, narrowed by name where there are many. */
const { legend, viewers = false } = defineProps<{
  legend: string
  /** whether those may be chosen who only look */ viewers?: boolean
}>()
const chosen = defineModel<readonly string[]>({ required: true })
const living = useLiving()
const narrow = ref('')
const offered = computed(() =>
  living.people.filter(
    (person) =>
      (person.active && (viewers || person.role !== 'viewer')) || chosen.value.includes(person.id),
  ),
)
// Those chosen stand first, as they were when this was opened: nothing moves under the pointer.
const before = new Set(chosen.value)
const shown = computed(() =>
  [...offered.value]
    .sort((a, b) => Number(before.has(b.id)) - Number(before.has(a.id)))
    .filter((entry) => entry.name.toLowerCase().includes(narrow.value.trim().toLowerCase())),
)
const set = (id: string, on: boolean): void => {
  chosen.value = on ? [...chosen.value, id] : chosen.value.filter((entry) => entry !== id)
}
</script>

<template>
  <fieldset class="field">
    <legend>
      {{ legend }}<span class="quiet"> · {{ chosen.length }} chosen</span>
    </legend>
    <InputText
      v-if="offered.length > 12"
      v-model="narrow"
      type="search"
      placeholder="narrow by name"
      aria-label="Narrow the people by name"
      size="small"
    />
    <div class="people">
      <label v-for="entry in shown" :key="entry.id"
        ><Checkbox
          :model-value="chosen.includes(entry.id)"
          binary
          @update:model-value="set(entry.id, $event)"
        />
        {{ entry.name }}</label
      >
      <p v-if="shown.length === 0" class="quiet">Nobody of that name.</p>
    </div>
  </fieldset>
</template>

<style scoped>
.people {
  width: 100%;
  max-height: 168px;
  overflow: auto;
  margin-top: 4px;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
}
</style>
