<script setup lang="ts">
import { type Filing, type JotAnswer, planFiling } from '@bluestem/core/jots'
import type { OffersAnswer } from '@bluestem/core/projects'
import Button from 'primevue/button'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { call, messagesOf } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Choice from '../parts/Choice.vue'
import { isWriting } from '../parts/isWriting.ts'
import { useNotes } from '../parts/notes.store.ts'
import { counted, firstOf } from '../parts/words.ts'
import { useJots } from './jots.store.ts'

/** Files what is chosen of the jots: into a project, as items of a type. */
const { jots: all, chosen } = defineProps<{
  jots: readonly JotAnswer[]
  chosen: ReadonlySet<string>
}>()
const emit = defineEmits<{ filed: []; drop: [] }>()
const jots = useJots()
const notes = useNotes()
const vocabulary = useVocabulary()
/** where the last ones were filed, which is where the next ones most often go */
const place = 'filing'
const project = ref(localStorage.getItem(place) ?? '')
const type = ref('')
const offers = ref<OffersAnswer>()
const refusals = ref<readonly string[]>([])
const busy = ref(false)

const projects = computed(() =>
  (vocabulary.vocabulary?.projects ?? []).map(({ code, title }) => ({ id: code, title })),
)
const types = computed(() =>
  (offers.value?.types ?? []).map(({ id, title, mark }) => ({ id, title, mark })),
)
watch(
  project,
  async (code) => {
    if (!projects.value.some(({ id }) => id === code)) return
    await notes.attempt(async () => {
      offers.value = await call('GET /projects/{code}/offers', { params: { code } })
      const isOffered = offers.value.types.some(({ id }) => id === type.value)
      if (!isOffered) type.value = offers.value.usual ?? offers.value.types[0]?.id ?? ''
    })
  },
  { immediate: true },
)

const plan = computed(() => planFiling(all, chosen, type.value, offers.value?.types ?? []))
const titleOf = (id: string | null): string =>
  types.value.find((type) => type.id === id)?.title ?? ''
/** The types of what stands below, in words. */
const belowWords = computed(() => {
  const below = plan.value.filter(({ above, type: its }) => above !== null && its !== null)
  const titles = [...new Set(below.map((entry) => titleOf(entry.type)))]
  return below.length > 0 ? `, and ${below.length} below as ${firstOf(titles, 3)}` : ''
})
const tooDeep = computed(() => plan.value.filter((entry) => entry.type === null).length)
const mayFile = computed(
  () => chosen.size > 0 && type.value !== '' && tooDeep.value === 0 && !busy.value,
)
const isTyped = (entry: Filing): entry is Filing & { readonly type: string } => entry.type !== null

async function file(): Promise<void> {
  if (!mayFile.value) return
  busy.value = true
  refusals.value = []
  try {
    const body = {
      project: project.value,
      jots: plan.value.filter(isTyped).map(({ id, type: its }) => ({ id, type: its })),
    }
    const refs = await jots.file(body)
    localStorage.setItem(place, project.value)
    notes.show('well', `${counted(refs.length, 'item')} made: ${firstOf(refs, 5)}.`)
    emit('filed')
  } catch (error) {
    refusals.value = messagesOf(error)
  } finally {
    busy.value = false
  }
}

/** The key for filing what is chosen. */
function listen(event: KeyboardEvent): void {
  const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey
  if (event.key !== 'f' || !isPlain || isWriting(event.target)) return
  event.preventDefault()
  void file()
}
onMounted(() => window.addEventListener('keydown', listen))
onBeforeUnmount(() => window.removeEventListener('keydown', listen))
</script>

<template>
  <div class="file" role="region" aria-label="File what is chosen">
    <ul v-if="refusals.length" class="told" role="alert">
      <li v-for="line in refusals" :key="line">{{ line }}</li>
    </ul>
    <p v-if="tooDeep" class="told" role="status">
      {{ counted(tooDeep, 'line') }} would stand deeper than {{ titleOf(type) }} allows; choose a
      type of a higher tier, or leave {{ tooDeep === 1 ? 'it' : 'them' }} out.
    </p>
    <div class="line">
      <span aria-live="polite"
        ><b>{{ counted(chosen.size, 'line') }}</b> chosen</span
      >
      <span>into</span>
      <Choice
        v-model="project"
        label="Project to file into"
        none="a project"
        inline
        :options="projects"
      />
      <span>as</span>
      <Choice
        v-model="type"
        label="Type they become"
        none="a type"
        inline
        domain="type"
        :options="types"
      />
      <span class="quiet grow">{{ belowWords }}</span>
      <Button
        severity="secondary"
        label="Drop"
        :disabled="chosen.size === 0"
        @click="emit('drop')"
      />
      <Button label="File" aria-keyshortcuts="f" :disabled="!mayFile" @click="file" />
    </div>
  </div>
</template>

<style scoped>
.file {
  flex: none;
  border-top: 1px solid var(--rule);
  padding: 8px 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
ul.told {
  margin: 0 0 8px;
  padding-left: 18px;
}
</style>
