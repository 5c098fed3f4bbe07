<script setup lang="ts">
import type { ProjectAnswer } from '@bluestem/core/projects'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Textarea from 'primevue/textarea'
import Checkbox from 'primevue/checkbox'
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { inOrder } from '@bluestem/core/definitions'
import Labelled from '../../parts/Labelled.vue'
import Sheet from '../../parts/Sheet.vue'
import { useRefusal } from '../../parts/refusal.ts'
import PeopleChoice from '../people/PeopleChoice.vue'
import { useSession } from '../../session/session.store.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A new project, with its rulebook and calendar, or what one is for and who keeps it. */
const { project } = defineProps<{ project?: ProjectAnswer }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const form = reactive({
  title: project?.title ?? '',
  code: '',
  description: project?.description ?? '',
  rulebook: definitions.published.rulebooks[definitions.rulebook]
    ? definitions.rulebook
    : (inOrder(definitions.published.rulebooks).find((rulebook) => !rulebook.retired)?.id ?? ''),
  calendar: project?.calendar ?? '',
  open: project?.open ?? true,
})
const keepers = ref<readonly string[]>(project?.keepers ?? [])
const members = ref<readonly string[]>(project?.members ?? [])
const { attempt, at, words, busy } = useRefusal()
// A project is made at once, so only what is published can be followed.
const rulebooks = computed(() =>
  inOrder(definitions.published.rulebooks).filter((rulebook) => !rulebook.retired),
)
const guessed = (): void => {
  if (!project && !form.code)
    form.code =
      form.title
        .replace(/[^A-Za-z ]/g, '')
        .split(/\s+/)
        .filter(Boolean)[0]
        ?.slice(0, 4)
        .toUpperCase() ?? ''
}

async function save(): Promise<string> {
  const { title, code, description, rulebook, open } = form
  const calendar = form.calendar || null
  const told = { title, description, calendar, open }
  const { id } = project
    ? await living.send('PATCH /projects/{id}', {
        params: { id: project.id },
        body: {
          ...told,
          keepers: keepers.value,
          ...(open ? {} : { members: [...new Set([...members.value, ...keepers.value])] }),
        },
        match: project.version,
      })
    : await living.send('POST /projects', {
        body: {
          ...told,
          code: code.toUpperCase(),
          rulebook,
          members: open ? [] : members.value,
        },
      })
  return id
}

const keep = async (): Promise<void> =>
  void (await attempt(async () => {
    const id = await save()
    await Promise.all([definitions.load(), project ? undefined : session.load()])
    emit('kept', id)
    emit('close')
  }))
</script>

<template>
  <Sheet :title="project ? `Change ${project.title}` : 'New project'" @close="emit('close')">
    <form @submit.prevent="keep">
      <div class="row">
        <Labelled class="grow" label="Name" :wrong="at('/title')"
          ><InputText
            v-model="form.title"
            required
            maxlength="80"
            autofocus
            :invalid="!!at('/title')"
            @blur="guessed"
            fluid /></Labelled
        ><Labelled v-if="!project" class="code" label="Code" :wrong="at('/code')"
          ><InputText
            v-model="form.code"
            required
            maxlength="10"
            pattern="[A-Za-z][A-Za-z0-9]{1,9}"
            title="Two to ten letters and digits, beginning with a letter"
            :invalid="!!at('/code')"
            fluid
        /></Labelled>
      </div>
      <p v-if="!project" class="quiet why">
        Its code stands in every ref, such as {{ (form.code || 'SITE').toUpperCase() }}/1, and never
        changes.
      </p>
      <Labelled v-if="!project" label="Rulebook it follows" :wrong="at('/rulebook')"
        ><Choice
          v-model="form.rulebook"
          label="Rulebook it follows"
          :options="rulebooks.map((row) => ({ id: row.id, title: row.title }))"
      /></Labelled>
      <label class="field"
        ><span>Calendar</span
        ><Choice
          v-model="form.calendar"
          label="Calendar"
          none="the workspace’s own"
          :options="
            living.calendars
              .filter((each) => !each.standard)
              .map((row) => ({ id: row.id, title: row.title }))
          "
      /></label>
      <label class="field"
        ><span>What it is for</span
        ><Textarea v-model="form.description" rows="2" maxlength="500" fluid />
      </label>
      <PeopleChoice
        v-if="project"
        v-model="keepers"
        legend="Keepers: they look after its components, labels and templates"
      />
      <label class="field"><Checkbox v-model="form.open" binary /> everybody may see it</label>
      <PeopleChoice
        v-if="!form.open"
        v-model="members"
        legend="Members: they alone may see it, and administrators"
        viewers
      />
      <p v-if="words" class="told" role="alert">{{ words }}</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy"
          :label="project ? 'Keep' : 'Make the project'"
        /><Button severity="secondary" @click="emit('close')" label="Not now" /><span
          v-if="!project"
          class="quiet"
          >it comes with an edition of its own</span
        >
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.code {
  width: 110px;
}
.code input {
  text-transform: uppercase;
}
.why {
  margin: -6px 0 12px;
}
.acts {
  align-items: center;
}
</style>
