<script setup lang="ts">
import { computed, ref } from 'vue'
import { nearness } from '@bluestem/core/consistency'
import { get, post } from '../api/http.ts'
import type { Chosen, NamedChoice } from '../api/types.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import LabelMark from './LabelMark.vue'
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
const most = 60
const shown = (one: NamedChoice): Chosen => ({
  id: one.id,
  title: one.own ?? one.title,
  mark: one.mark ?? null,
  ...(one.family ? { family: one.family } : {}),
})
const offered = computed(() => choices.filter((one) => !one.retired || held.includes(one.id)))
const found = computed(() => {
  const words = wanted.value.trim().toLowerCase()
  const fitting = words
    ? offered.value.filter((one) =>
        `${one.family ?? ''} ${one.title}`.toLowerCase().includes(words),
      )
    : offered.value
  const rank = new Map([...held, ...recent.value].map((id, index) => [id, index]))
  return [...fitting]
    .sort((a, b) => (rank.get(a.id) ?? 1e6) - (rank.get(b.id) ?? 1e6))
    .slice(0, most)
})
const near = computed(() => {
  const title = wanted.value.trim()
  return title.length < 2
    ? []
    : offered.value
        .filter(
          (one) =>
            !found.value.includes(one) && nearness(one.own ?? one.title, title) !== 'different',
        )
        .slice(0, 5)
})
const isKnown = computed(() =>
  offered.value.some(
    (one) => (one.own ?? one.title).toLowerCase() === wanted.value.trim().toLowerCase(),
  ),
)
const open = async (): Promise<void> => {
  recent.value = (
    await get<{ recent: string[] }>('/labels/recent').catch(() => ({ recent: [] }))
  ).recent
}

function toggle(id: string, on: boolean): void {
  emit('change', on ? [...held, id] : held.filter((one) => one !== id))
}
async function make(): Promise<void> {
  await notes.attempt(async () => {
    const made = await post<{ id: string }>('/labels', { title: wanted.value.trim() })
    await vocabulary.load()
    wanted.value = ''
    toggle(made.id, true)
  })
}
</script>

<template>
  <details class="picks" @toggle="($event.target as HTMLDetailsElement).open && open()">
    <summary :aria-label="`${name}: ${held.length} chosen`">
      <template v-for="one in choices.filter((each) => held.includes(each.id))" :key="one.id"
        ><LabelMark :label="shown(one)" /></template
      ><template v-if="!held.length">–</template>
    </summary>
    <div class="options" role="group" :aria-label="name">
      <input
        v-model="wanted"
        type="search"
        :aria-label="`Find one of ${name}`"
        placeholder="Find or make one"
        @keydown.enter.prevent="found[0] && toggle(found[0].id, !held.includes(found[0].id))"
      />
      <label v-for="one in found" :key="one.id"
        ><input
          type="checkbox"
          :checked="held.includes(one.id)"
          @change="toggle(one.id, ($event.target as HTMLInputElement).checked)"
        />{{ ' ' }}<LabelMark :label="shown(one)" /><small v-if="one.project" class="quiet"
          >this project’s</small
        ></label
      >
      <template v-if="near.length"
        ><p class="quiet">near it</p>
        <label v-for="one in near" :key="one.id"
          ><input
            type="checkbox"
            :checked="held.includes(one.id)"
            @change="toggle(one.id, ($event.target as HTMLInputElement).checked)"
          />{{ ' ' }}<LabelMark :label="shown(one)" /> <small class="quiet">exists</small></label
        ></template
      >
      <button v-if="wanted.trim() && !isKnown" class="plain" type="button" @click="make">
        make “{{ wanted.trim() }}”{{ near.length || found.length ? ' all the same' : '' }}
      </button>
    </div>
  </details>
</template>

<style scoped>
.options {
  min-width: 250px;
}
.options input[type='search'] {
  margin-bottom: 4px;
}
p {
  font-size: 12px;
  margin-top: 4px;
}
small {
  font-size: 11.5px;
}
</style>
