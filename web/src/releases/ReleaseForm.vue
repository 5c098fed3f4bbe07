<script setup lang="ts">
import type { ReleaseAnswer } from '@bluestem/core/releases'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed, ref } from 'vue'
import { call } from '../api/http.ts'
import DayPicker from '../parts/DayPicker.vue'
import Labelled from '../parts/Labelled.vue'
import Several from '../parts/Several.vue'
import Sheet from '../parts/Sheet.vue'
import { useRefusal } from '../parts/refusal.ts'
import { beginWith } from './beginWith.ts'

/** A release: its name, its projects, its days and what it is for. One that no item ever was in can be deleted. */
const {
  release,
  projects,
  project = '',
} = defineProps<{
  release?: ReleaseAnswer
  /** those that whoever plans keeps */
  projects: readonly { readonly id: string; readonly title: string }[]
  /** the one that a new release begins with */
  project?: string
}>()
const emit = defineEmits<{ close: []; saved: [ReleaseAnswer]; deleted: [] }>()
const title = ref(release?.title ?? '')
const goal = ref(release?.goal ?? '')
const start = ref(release?.start ?? null)
const end = ref(release?.end ?? null)
const own = ref(release?.projects.map(({ id }) => id) ?? beginWith(projects, project))
const { attempt, at, words, busy } = useRefusal()
const wrongElsewhere = computed(() => at('/start') ?? at('/end') ?? at('/projects/0'))

const save = async (): Promise<void> =>
  void (await attempt(async () => {
    const body = {
      title: title.value,
      projects: [...own.value],
      start: start.value,
      end: end.value,
      goal: goal.value,
    }
    const saved = release
      ? await call('PATCH /releases/{id}', {
          params: { id: release.id },
          match: release.version,
          body,
        })
      : await call('POST /releases', { body })
    emit('saved', saved)
  }))
const discard = async ({ id, version }: ReleaseAnswer): Promise<void> =>
  void (await attempt(async () => {
    await call('DELETE /releases/{id}', { params: { id }, match: version })
    emit('deleted')
  }))
</script>

<template>
  <Sheet :title="release?.title ?? 'Plan a release'" @close="emit('close')">
    <form @submit.prevent="save">
      <Labelled label="Name" :wrong="at('/title')"
        ><InputText
          v-model="title"
          required
          maxlength="80"
          autofocus
          :invalid="!!at('/title')"
          fluid
      /></Labelled>
      <div class="field">
        <span>Projects that it belongs to</span
        ><Several v-model="own" label="Projects that it belongs to" :options="projects" />
      </div>
      <label class="field"
        ><span>Goal</span><Textarea v-model="goal" rows="2" maxlength="500" fluid
      /></label>
      <div class="row">
        <div class="field">
          <span>First day</span><DayPicker v-model="start" label="First day" />
        </div>
        <div class="field">
          <span>Comes out on</span><DayPicker v-model="end" label="Comes out on" />
        </div>
      </div>
      <p v-if="words || wrongElsewhere" class="told" role="alert">{{ words || wrongElsewhere }}</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || own.length === 0"
          :label="release ? 'Save' : 'Make it'"
        /><Button severity="secondary" label="Not now" @click="emit('close')" /><Button
          v-if="release && release.items === 0 && release.state === 'planned'"
          variant="link"
          label="delete it"
          @click="discard(release)"
        />
      </div>
    </form>
  </Sheet>
</template>
