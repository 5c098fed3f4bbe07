<script setup lang="ts">
import type { FinishRelease, ReleasePlan } from '@bluestem/core/releases'
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import FinishSheet from '../iterations/FinishSheet.vue'
import SpanItems from '../iterations/SpanItems.vue'
import { daysWords } from '../iterations/words.ts'
import { useNotes } from '../parts/notes.store.ts'
import ReleaseForm from './ReleaseForm.vue'

/** One release: what is in it and how that compares with what was meant, and the open work of its projects it is filled from. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const vocabulary = useVocabulary()
const notes = useNotes()
const id = String(route.params['id'])
const plan = ref<ReleasePlan>()
const open = ref<'change' | 'finish'>()
const items = ref<InstanceType<typeof SpanItems>>()

async function load(): Promise<void> {
  await notes.attempt(async () => {
    plan.value = await call('GET /releases/{id}/plan', { params: { id } })
  })
}
onMounted(load)
function refresh(): void {
  void load()
  items.value?.refresh()
}
whenChanged(refresh)

const release = computed(() => plan.value?.release)
/** Open work of its projects that is in no release. */
const backlog = computed(() => ({
  title: 'In no release yet',
  filter: {
    op: 'in',
    args: [{ property: 'project' }, (release.value?.projects ?? []).map((project) => project.id)],
  },
}))

async function start(): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    await call('POST /releases/{id}/start', { params: { id } })
  })
  if (wentWell) refresh()
}
const finish = async (body: FinishRelease): Promise<unknown> =>
  await call('POST /releases/{id}/finish', { params: { id }, body })

function changed(): void {
  open.value = undefined
  refresh()
}
</script>

<template>
  <section class="sheet fixed">
    <div class="row">
      <div class="grow">
        <h1>{{ release?.title }}</h1>
        <p class="meta">
          <RouterLink to="/work">Work</RouterLink> /
          <RouterLink to="/releases">Releases</RouterLink>
          <template v-if="release">
            <template v-for="project in release.projects" :key="project.id">
              · <RouterLink :to="`/work/${project.code}`">{{ project.title }}</RouterLink></template
            >
            · {{ daysWords(release, session.now) }} · {{ release.state }}</template
          >
        </p>
      </div>
      <div v-if="plan?.mayPlan" class="acts">
        <Button severity="secondary" label="Change …" @click="open = 'change'" />
        <Button v-if="release?.state === 'planned'" label="Start" @click="start" />
        <Button v-if="release?.state === 'running'" label="Finish …" @click="open = 'finish'" />
      </div>
    </div>
    <SpanItems
      v-if="plan"
      ref="items"
      handle="release"
      :span="plan.release"
      :outcome="plan.outcome"
      :backlog="backlog"
      @changed="load"
    />
    <ReleaseForm
      v-if="open === 'change' && release"
      :release="release"
      :projects="vocabulary.vocabulary?.projects ?? []"
      @close="open = undefined"
      @saved="changed"
      @deleted="router.push('/releases')"
    />
    <FinishSheet
      v-if="open === 'finish' && plan"
      :span="plan.release"
      :outcome="plan.outcome"
      :next="plan.next"
      :finish="finish"
      @close="open = undefined"
      @finished="changed"
    />
  </section>
</template>
