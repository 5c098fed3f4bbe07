<script setup lang="ts">
import { entryOf } from '@bluestem/core/known'
import Choice from '../../parts/Choice.vue'
import { computed, ref } from 'vue'
import { ladderOf, type Edit } from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A project leaves a shared ladder for one of its own, in one act: the ladder, a rulebook that extends the shared one, and the project that follows it. */
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
const living = useLiving()
const projects = computed(() =>
  living.projects.filter((project) => definitions.document.projects[project.id]),
)
const project = ref(projects.value[0]?.id ?? '')
const busy = ref(false)
const shared = computed(
  () =>
    definitions.document.ladders[
      ladderOf(definitions.document, definitions.document.projects[project.value] ?? '') ?? ''
    ],
)
const title = computed(() => living.projectTitle.get(project.value) ?? '')

async function keep(): Promise<void> {
  busy.value = true
  const [ladder, rulebook] = [definitions.newId('ladders'), definitions.newId('rulebooks')]
  const follows = entryOf(definitions.document.projects, project.value)
  const edits: Edit[] = [
    {
      path: ['ladders', ladder],
      after: {
        order: definitions.lastOrder(definitions.document.ladders),
        title: `${title.value}’s own`,
        description: `What urgency means in ${title.value}.`,
        rungs: { ...shared.value?.rungs },
        default: shared.value?.default ?? null,
      },
    },
    {
      path: ['rulebooks', rulebook],
      after: {
        order: definitions.lastOrder(definitions.document.rulebooks),
        title: `${title.value}’s own`,
        description: `${definitions.document.rulebooks[follows]?.title} with a ladder of its own.`,
        extends: follows,
        entries: { ladder: { ladder } },
      },
    },
    { path: ['projects', project.value], after: rulebook },
  ]
  if (await definitions.edit(edits)) emit('close')
  busy.value = false
}
</script>

<template>
  <Sheet title="A ladder of our own" @close="emit('close')">
    <form @submit.prevent="keep">
      <label class="field"
        ><span>Project</span
        ><Choice
          v-model="project"
          label="Project"
          :options="projects.map((row) => ({ id: row.id, title: row.title }))"
      /></label>
      <p class="quiet why">
        It follows the ladder <b>{{ shared?.title ?? 'of nobody' }}</b> now. Its own begins with the
        same rungs, so no item changes yet; take rungs off and put others on, and the draft asks
        what each value in use becomes. Nobody else is touched.
      </p>
      <FormActs :busy="busy || !project" @close="emit('close')" />
    </form>
  </Sheet>
</template>

<style scoped>
.why {
  margin-bottom: 14px;
}
</style>
