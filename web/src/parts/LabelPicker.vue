<script setup lang="ts">
import type { NamedChoice } from '@bluestem/core/queries'
import type { ShownChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { nearness } from '@bluestem/core/consistency'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import LabelMark from './LabelMark.vue'
import ManySelect from './ManySelect.ts'
import { useNotes } from './notes.store.ts'

/** Labels to give: those one gave last come first, and making one shows what is near it. */
const { held, choices, name } = defineProps<{
  held: readonly string[]
  choices: readonly NamedChoice[]
  name: string
}>()
const emit = defineEmits<{ change: [string[]] }>()
const vocabulary = useVocabulary()
const notes = useNotes()
const wanted = ref('')
const recent = ref<readonly string[]>([])

const titleOf = (entry: NamedChoice): string => entry.own ?? entry.title
const fullTitle = (entry: NamedChoice): string =>
  entry.family ? `${entry.family}: ${titleOf(entry)}` : titleOf(entry)
const shown = (entry: NamedChoice): ShownChoice => ({
  id: entry.id,
  title: titleOf(entry),
  mark: entry.mark ?? null,
  ...(entry.family ? { family: entry.family } : {}),
})

// As it was when this was opened: nothing moves under the pointer.
const first = ref<readonly string[]>(held)
const offered = computed(() => {
  const places = new Map([...first.value, ...recent.value].map((id, index) => [id, index]))
  const placeOf = (entry: NamedChoice): number => places.get(entry.id) ?? 1e6
  return choices
    .filter((choice) => !choice.retired || held.includes(choice.id))
    .sort((a, b) => placeOf(a) - placeOf(b))
})
const near = computed(() => {
  const title = wanted.value.trim().toLowerCase()
  if (title.length < 2) return []
  return offered.value
    .filter(
      (entry) =>
        !fullTitle(entry).toLowerCase().includes(title) &&
        nearness(titleOf(entry), title) !== 'different',
    )
    .slice(0, 5)
})
const isKnown = computed(() =>
  offered.value.some((entry) => titleOf(entry).toLowerCase() === wanted.value.trim().toLowerCase()),
)

async function open(): Promise<void> {
  first.value = held
  const latest = await call('GET /labels/recent').catch(() => ({ recent: [] }))
  recent.value = latest.recent
}

async function make(): Promise<void> {
  await notes.attempt(async () => {
    const made = await call('POST /labels', { body: { title: wanted.value.trim() } })
    await vocabulary.load()
    emit('change', [...held, made.id])
    wanted.value = ''
  })
}
</script>

<template>
  <ManySelect
    append-to="#lists"
    :model-value="[...held]"
    :options="offered"
    :option-label="fullTitle"
    option-value="id"
    :aria-label="name"
    placeholder="–"
    filter
    filter-placeholder="Find or make one"
    auto-filter-focus
    :show-toggle-all="false"
    fluid
    :virtual-scroller-options="offered.length > 80 ? { itemSize: 30 } : undefined"
    @before-show="open"
    @filter="wanted = $event.value"
    @update:model-value="emit('change', $event)"
  >
    <template #value>
      <LabelMark
        v-for="entry in choices.filter((each) => held.includes(each.id))"
        :key="entry.id"
        :label="shown(entry)"
      />
      <template v-if="!held.length">–</template>
    </template>
    <template #option="{ option }">
      <LabelMark :label="shown(option)" />
      <small v-if="option.project" class="quiet">this project’s</small>
    </template>
    <template #footer>
      <div v-if="wanted.trim() && !isKnown" class="foot">
        <p v-if="near.length" class="quiet">
          near it, and exists:
          <Button
            v-for="entry in near"
            :key="entry.id"
            variant="link"
            :aria-label="`Take ${fullTitle(entry)}`"
            @click="emit('change', [...held, entry.id])"
          >
            <LabelMark :label="shown(entry)" />
          </Button>
        </p>
        <Button
          variant="link"
          :label="`make “${wanted.trim()}”${near.length ? ' all the same' : ''}`"
          @click="make"
        />
      </div>
    </template>
  </ManySelect>
</template>

<style scoped>
.foot {
  border-top: 1px solid var(--hair);
  padding: 8px 12px;
}
.foot p {
  font-size: 12.5px;
  margin-bottom: 4px;
}
small {
  font-size: 11.5px;
}
</style>
