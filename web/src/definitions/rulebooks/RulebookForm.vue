<script setup lang="ts">
import { elementAt, firstIn } from '@bluestem/core/known'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import RadioButton from 'primevue/radiobutton'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref } from 'vue'
import { entriesInUse, rulebookLike, type Edit } from '@bluestem/core/definitions'
import { call } from '../../api/http.ts'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A rulebook made or renamed. A new one extends another, copies one, or says what a project really uses. */
const { id, project } = defineProps<{ id: string; project?: string }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const opened = definitions.document
const living = useLiving()
const notes = useNotes()
const known = definitions.document.rulebooks[id]
const follows = project ? (definitions.document.projects[project] ?? '') : definitions.rulebook
const form = reactive({
  title: known?.title ?? (project ? `${living.projectTitle.get(project)}’s own` : ''),
  description: known?.description ?? '',
})
const parent = ref(known?.extends ?? '')
const begins = ref<'extend' | 'copy' | 'project' | 'nothing'>(
  definitions.rulebooks.length > 0 ? 'extend' : 'nothing',
)
const like = ref(follows)
const usedBy = ref(project ?? living.projects[0]?.id ?? '')
const busy = ref(false)
const others = computed(() =>
  definitions.rulebooks.filter((rulebook) => rulebook.id !== id && !rulebook.retired),
)

async function entries(): Promise<Record<string, unknown>> {
  if (begins.value === 'nothing') return {}
  if (begins.value !== 'project')
    return rulebookLike(definitions.document, like.value, begins.value)
  const { groups } = await call('POST /measures/evaluate', {
    body: {
      filter: { op: '=', args: [{ property: 'project' }, usedBy.value] },
      kept: true,
      figure: { kind: 'count' },
      by: ['type'],
    },
  })
  return entriesInUse(
    definitions.document,
    usedBy.value,
    groups.flatMap(({ key }) => key[0]?.id ?? []),
  )
}
async function edits(): Promise<Edit[]> {
  if (known)
    return [
      ...(['title', 'description'] as const).map((part) => ({
        path: ['rulebooks', id, part],
        after: form[part],
      })),
      { path: ['rulebooks', id, 'extends'], after: parent.value || null },
    ]
  const made = definitions.newId('rulebooks')
  const from = definitions.document.rulebooks[like.value]
  return [
    {
      path: ['rulebooks', made],
      after: {
        order: definitions.lastOrder(definitions.document.rulebooks),
        ...form,
        extends:
          begins.value === 'extend'
            ? like.value
            : begins.value === 'copy'
              ? (from?.extends ?? null)
              : null,
        entries: await entries(),
      },
    },
    ...(project ? [{ path: ['projects', project], after: made }] : []),
  ]
}
async function keep(): Promise<void> {
  busy.value = true
  await notes.attempt(async () => {
    const all = await edits()
    if (!(await definitions.edit(all, [], opened))) return
    emit('kept', elementAt(firstIn(all).path, 1))
    emit('close')
  })
  busy.value = false
}
</script>

<template>
  <Sheet
    :title="
      known
        ? `Change ${known.title}`
        : project
          ? `A rulebook of its own for ${living.projectTitle.get(project)}`
          : 'New rulebook'
    "
    @close="emit('close')"
  >
    <form @submit.prevent="keep">
      <label class="field"
        ><span>Title</span><InputText v-model="form.title" required maxlength="80" autofocus fluid
      /></label>
      <label v-if="known" class="field"
        ><span>Extends</span
        ><Choice
          v-model="parent"
          label="Extends"
          none="nothing: it stands alone"
          :options="others.map((row) => ({ id: row.id, title: row.title }))"
      /></label>
      <template v-else>
        <fieldset v-if="others.length" class="field">
          <legend>It begins</legend>
          <label
            ><RadioButton v-model="begins" name="begins" value="extend" /> extending another: what
            that one says later holds here too</label
          ><label
            ><RadioButton v-model="begins" name="begins" value="copy" /> as a copy of another, apart
            from it from now on</label
          ><label
            ><RadioButton v-model="begins" name="begins" value="project" /> from what a project
            really uses</label
          ><label v-if="!project"
            ><RadioButton v-model="begins" name="begins" value="nothing" /> empty</label
          >
        </fieldset>
        <label v-if="begins === 'extend' || begins === 'copy'" class="field"
          ><span>{{ begins === 'extend' ? 'Which it extends' : 'Of which' }}</span
          ><Choice
            v-model="like"
            :label="begins === 'extend' ? 'Which it extends' : 'Of which'"
            :options="others.map((row) => ({ id: row.id, title: row.title }))"
        /></label>
        <label v-if="begins === 'project'" class="field"
          ><span>Of which project</span
          ><Choice
            v-model="usedBy"
            label="Of which project"
            :options="living.projects.map((row) => ({ id: row.id, title: row.title }))"
        /></label>
      </template>
      <label class="field"
        ><span>Whom it is for</span
        ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
      </label>
      <p v-if="project" class="quiet why">
        {{ living.projectTitle.get(project) }} follows it from the next edition on. Nobody else is
        touched, and the draft asks what becomes of each value that it no longer has.
      </p>
      <FormActs :busy="busy" @close="emit('close')" />
    </form>
  </Sheet>
</template>

<style scoped>
.why {
  margin-bottom: 12px;
}
fieldset label {
  flex: 1 0 100%;
}
</style>
