<script setup lang="ts">
import type { ProjectAnswer } from '@bluestem/core/projects'
import type { ReleaseAnswer } from '@bluestem/core/releases'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import SpansLedger from '../iterations/SpansLedger.vue'
import Choice from '../parts/Choice.vue'
import { useNotes } from '../parts/notes.store.ts'
import PlanReleases from './PlanReleases.vue'
import ReleaseForm from './ReleaseForm.vue'

/** The releases of all projects: what is planned, what is on its way, what came out. */
const session = useSession()
const notes = useNotes()
const router = useRouter()
const releases = ref<readonly ReleaseAnswer[]>()
const projects = ref<readonly ProjectAnswer[]>([])
const project = ref('')
const making = ref<'one' | 'series'>()

async function load(): Promise<void> {
  await notes.attempt(async () => {
    const [found, all] = await Promise.all([call('GET /releases'), call('GET /projects')])
    releases.value = found.releases
    projects.value = all.projects
  })
}
onMounted(load)
whenChanged(() => void load())

const me = computed(() => session.session?.person.id ?? '')
const kept = computed(() =>
  session.mayDefine
    ? projects.value
    : projects.value.filter(({ keepers }) => session.mayEdit && keepers.includes(me.value)),
)
const rows = computed(() =>
  (releases.value ?? []).filter(
    (release) => project.value === '' || release.projects.some(({ id }) => id === project.value),
  ),
)
const whose = ({ projects: own }: ReleaseAnswer): string => own.map(({ code }) => code).join(', ')
const open = ({ id }: ReleaseAnswer): void => void router.push(`/releases/${id}`)
</script>

<template>
  <section class="sheet">
    <h1>Releases</h1>
    <p class="meta">
      <RouterLink to="/work">Work</RouterLink> / what one project or several bring out together, and
      when
    </p>
    <div class="acts bar">
      <Choice
        v-model="project"
        label="Of which project"
        none="all projects"
        inline
        :options="projects.map(({ id, title }) => ({ id, title }))"
      />
      <span class="grow" />
      <template v-if="kept.length">
        <Button severity="secondary" label="Plan a series …" @click="making = 'series'" />
        <Button label="Plan a release …" @click="making = 'one'" />
      </template>
    </div>
    <SpansLedger
      v-if="rows.length"
      :rows="rows"
      label="Releases"
      what="Release"
      :whose="whose"
      path="/releases"
    />
    <p v-else-if="releases" class="blank">
      Here the releases {{ project ? 'of this project ' : '' }}would stand.
      <template v-if="kept.length"
        >Plan the first: a name, its projects, the day it comes out.</template
      >
    </p>
    <ReleaseForm
      v-if="making === 'one'"
      :projects="kept"
      :project="project"
      @close="making = undefined"
      @saved="open"
    />
    <PlanReleases
      v-if="making === 'series'"
      :projects="kept"
      :releases="releases ?? []"
      :project="project"
      @close="making = undefined"
      @made="open"
    />
  </section>
</template>

<style scoped>
.bar {
  margin: 10px 0;
  align-items: center;
}
</style>
