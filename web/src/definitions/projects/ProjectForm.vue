<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Textarea from 'primevue/textarea'
import Checkbox from 'primevue/checkbox'
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { inOrder } from '@bluestem/core/definitions'
import type { CountedProject } from '../../api/types.ts'
import Sheet from '../../parts/Sheet.vue'
import PeopleChoice from '../people/PeopleChoice.vue'
import { useSession } from '../../app/session.store.ts'
import { useDefinitions } from '../definitions.store.ts'
import { useLiving } from '../living.store.ts'

/** A new project, with its rulebook and calendar, or what one is for and who keeps it. */
const { project } = defineProps<{ project?: CountedProject }>()
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
    : (inOrder(definitions.published.rulebooks).find((one) => !one.retired)?.id ?? ''),
  calendar: project?.calendar ?? '',
  open: project?.open ?? true,
})
const keepers = ref<readonly string[]>(project?.keepers ?? [])
const members = ref<readonly string[]>(project?.members ?? [])
const busy = ref(false)
// A project is made at once, so only what is published can be followed.
const rulebooks = computed(() =>
  inOrder(definitions.published.rulebooks).filter((one) => !one.retired),
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

async function keep(): Promise<void> {
  busy.value = true
  const { title, code, description, rulebook, calendar, open } = form
  const done = project
    ? await living.change<{ id: string }>(
        'PATCH',
        `/projects/${project.id}`,
        {
          title,
          description,
          calendar: calendar || null,
          open,
          keepers: keepers.value,
          ...(open ? {} : { members: [...new Set([...members.value, ...keepers.value])] }),
        },
        project.version,
      )
    : await living.change<{ id: string }>('POST', '/projects', {
        title,
        code: code.toUpperCase(),
        description,
        rulebook,
        calendar: calendar || null,
        open,
        members: open ? [] : members.value,
      })
  busy.value = false
  if (!done) return
  await Promise.all([definitions.load(), project ? undefined : session.load()])
  emit('kept', done.id)
  emit('close')
}
</script>

<template>
  <Sheet :title="project ? `Change ${project.title}` : 'New project'" @close="emit('close')">
    <form @submit.prevent="keep">
      <div class="row">
        <label class="field grow"
          ><span>Name</span
          ><InputText
            v-model="form.title"
            required
            maxlength="80"
            autofocus
            @blur="guessed"
            fluid /></label
        ><label v-if="!project" class="field code"
          ><span>Code</span
          ><InputText
            v-model="form.code"
            required
            maxlength="10"
            pattern="[A-Za-z][A-Za-z0-9]{1,9}"
            title="Two to ten letters and digits, beginning with a letter"
            fluid
        /></label>
      </div>
      <p v-if="!project" class="quiet why">
        Its code stands in every ref, such as {{ (form.code || 'YARD').toUpperCase() }}/1, and never
        changes.
      </p>
      <label v-if="!project" class="field"
        ><span>Rulebook it follows</span
        ><Choice
          v-model="form.rulebook"
          label="Rulebook it follows"
          :options="rulebooks.map((one) => ({ id: one.id, title: one.title }))"
      /></label>
      <label class="field"
        ><span>Calendar</span
        ><Choice
          v-model="form.calendar"
          label="Calendar"
          none="the workspace’s own"
          :options="
            living.calendars
              .filter((each) => !each.standard)
              .map((one) => ({ id: one.id, title: one.title }))
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
