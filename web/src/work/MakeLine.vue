<script setup lang="ts">
import { asRecord, certain } from '@bluestem/core/known'
import type { OffersAnswer } from '@bluestem/core/projects'
import type { BirthAnswer } from '@bluestem/core/work'
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { call } from '../api/http.ts'
import Choice from '../parts/Choice.vue'
import { useNotes } from '../parts/notes.store.ts'
import ValueText from '../parts/ValueText.vue'
import MakeItem from './MakeItem.vue'
import TitleLine from './TitleLine.vue'

/**
 * A line for items that belong among the answers of a filter: it takes the values that make them belong, and tells which clause cannot
 * be met.
 */
const { filter, place, stacked } = defineProps<{
  /** the filter, its choices by identity */
  filter: unknown
  /** where the items will stand, as in “In hand” or “this list” */
  place: string
  /** one control above the other, for a narrow place */
  stacked?: boolean
}>()
const emit = defineEmits<{ made: [ref: string]; close: [] }>()
const notes = useNotes()
const birth = ref<BirthAnswer>()
const asBorn = (): BirthAnswer => certain(birth.value, 'answer of how an item is born')
const project = ref('')
const type = ref('')
const inForm = ref<{ readonly offers: OffersAnswer; readonly title: string }>()

async function ask(): Promise<void> {
  await notes.attempt(async () => {
    const chosen = {
      ...(project.value ? { project: project.value } : {}),
      ...(type.value ? { type: type.value } : {}),
    }
    birth.value = await call('POST /items/born', { body: { filter, ...chosen } })
    project.value = birth.value.project ?? ''
    type.value = birth.value.type ?? ''
  })
}
watch([() => JSON.stringify(filter), project, type], (now, before) => {
  const { project: asked, type: askedType } = birth.value ?? {}
  if (now[0] !== before[0] || project.value !== asked || type.value !== askedType) void ask()
})
void ask()

async function make(title: string): Promise<void> {
  const { project: within, type: kind, given } = asBorn()
  const made = await call('POST /items', {
    body: {
      ...given,
      project: certain(within, 'project to make it in'),
      type: certain(kind, 'type to make it of'),
      title,
    },
  })
  tellMade(made.ref)
}

function tellMade(made: string): void {
  notes.show(
    'well',
    asBorn().unmet.length > 0 ? `${made} is made; it does not stand here.` : `${made} is made.`,
  )
  emit('made', made)
}

/** Opens the form as it is defined, for whatever else is to be said. */
async function openForm(title: string): Promise<void> {
  const code = String(asBorn().projects.find(({ id }) => id === project.value)?.mark ?? '')
  await notes.attempt(async () => {
    const offers = await call('GET /projects/{code}/offers', { params: { code } })
    inForm.value = { offers, title }
  })
}

/** What the form starts from: the values that make an item belong, fields beside the others. */
function startOf(title: string): Record<string, unknown> {
  const { fields = {}, ...own } = asBorn().given
  return { ...own, ...asRecord(fields), type: type.value, title }
}

function closeForm(made?: string): void {
  inForm.value = undefined
  if (made) tellMade(made)
}
</script>

<template>
  <div class="make" role="group" :aria-label="`New items in ${place}`">
    <p v-if="birth && !birth.project" class="row">
      <span class="warn grow"
        >Nothing made now can stand here: no project you may see meets
        {{ birth.unmet.join(', and ') }}.</span
      >
      <Button variant="link" label="done" @click="emit('close')" />
    </p>
    <template v-else-if="birth">
      <TitleLine
        v-model:type="type"
        :class="{ stacked }"
        :label="`a new item in ${place}`"
        :types="birth.types"
        :make="make"
        @close="emit('close')"
      >
        <Choice
          v-if="birth.projects.length > 1"
          v-model="project"
          label="Project"
          inline
          :options="birth.projects"
        />
        <template #beside="{ title }">
          <Button variant="link" label="with its form …" @click="openForm(title)" />
        </template>
      </TitleLine>
      <p class="takes" aria-live="polite">
        <template v-if="birth.takes.length">
          <span class="quiet">It takes:</span>
          <span v-for="take in birth.takes" :key="take.handle" class="one"
            ><span class="quiet">{{ take.title.toLowerCase() }}</span>
            <ValueText v-if="take.value !== null" :handle="take.handle" :value="take.value" /><i
              v-else
              >none</i
            ></span
          >
        </template>
        <span v-if="birth.written.length" class="quiet"
          >It stands here only where {{ birth.written.join(', and ') }}.</span
        >
        <span v-if="birth.unmet.length" class="warn"
          >It will not stand here: what is made now cannot meet
          {{ birth.unmet.map((one) => `“${one}”`).join(', ') }}.</span
        >
      </p>
    </template>
    <MakeItem
      v-if="inForm"
      :offers="inForm.offers"
      :given="startOf(inForm.title)"
      @close="closeForm()"
      @made="closeForm"
    />
  </div>
</template>

<style scoped>
.make {
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
.takes {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  margin: 5px 0 0;
  font-size: 12.5px;
}
.one {
  display: inline-flex;
  gap: 5px;
  align-items: baseline;
}
.takes i {
  font-style: normal;
}
.stacked {
  flex-wrap: wrap;
}
.stacked :deep(> *) {
  max-width: 100%;
}
.stacked :deep(> input) {
  flex-basis: 100%;
  order: -1;
}
</style>
