<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onMounted, ref } from 'vue'
import { inOrder } from '@bluestem/core/definitions'
import { type Starter, starters } from '@bluestem/core/starters'
import { call } from '../../api/http.ts'
import { useNotes } from '../../parts/notes.store.ts'
import DefinitionsFile from '../editions/DefinitionsFile.vue'
import PersonForm from '../people/PersonForm.vue'
import ProjectForm from '../projects/ProjectForm.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import StarterSheet from './StarterSheet.vue'
import { nextStep, type Step, type StepKey, sizeWords, stepsOf } from './steps.ts'

/** From nothing to a working tracker: what there is, what is missing, and one act for each step. */
const definitions = useDefinitions()
const living = useLiving()
const notes = useNotes()
const counts = ref({ queries: 0, views: 0, dashboards: 0 })
const looking = ref<Starter>()
const doing = ref<'project' | 'person' | 'file'>()

/** How much each starter brings, in a line. */
const sizes = ref<Readonly<Record<string, string>>>({})
onMounted(async () => {
  const read = await Promise.all(
    starters.map(async ({ id, load }) => [id, sizeWords(await load())] as const),
  )
  sizes.value = Object.fromEntries(read)
})
onMounted(
  async () =>
    await notes.attempt(async () => {
      const [{ queries }, { views }, { dashboards }] = await Promise.all([
        call('GET /queries'),
        call('GET /views'),
        call('GET /dashboards'),
      ])
      counts.value = {
        queries: queries.length,
        views: views.length,
        dashboards: dashboards.length,
      }
    }),
)

const steps = computed(() =>
  stepsOf({
    document: definitions.document,
    isPublished: inOrder(definitions.published.rulebooks).some((rulebook) => !rulebook.retired),
    projects: living.projects.map((project) => project.title),
    people: living.people.filter((person) => person.active).length,
    ...counts.value,
  }),
)
const next = computed(() => nextStep(steps.value))
const left = computed(() => steps.value.filter((step) => !step.isDone).length)
const isEmpty = computed(() => Object.keys(definitions.document.rulebooks).length === 0)

/** Where a step is done, or looked at once it is. */
const addresses: Readonly<Record<StepKey, string>> = {
  rulebook: '/definitions/rulebooks',
  types: '/definitions/types',
  flows: '/definitions/flows',
  priorities: '/definitions/priorities',
  project: '/definitions/projects',
  people: '/definitions/people',
  query: '/queries/new',
  view: '/views/new',
  dashboard: '/dashboards',
}
/** What is done here, without leaving the page. */
const acts: Partial<Record<StepKey, { readonly label: string; readonly act: typeof doing.value }>> =
  {
    project: { label: 'New project', act: 'project' },
    people: { label: 'Add people', act: 'person' },
  }
const labels: Partial<Record<StepKey, string>> = {
  query: 'New query',
  view: 'New view',
  dashboard: 'New dashboard',
}
/** A rulebook that was taken over waits in a draft to be looked at and published. */
const isDrafted = ({ key }: Step): boolean =>
  key === 'rulebook' && !isEmpty.value && definitions.draft !== undefined
const actOf = (step: Step) => (isDrafted(step) ? undefined : acts[step.key])
const linkOf = (step: Step): string =>
  isDrafted(step) ? '/definitions/review' : addresses[step.key]
const labelOf = (step: Step): string => {
  const { key, isDone } = step
  if (isDrafted(step) && !isDone) return 'Review and publish'
  if (isDone) return key === 'rulebook' ? 'look at it' : 'change'
  return labels[key] ?? 'define'
}
</script>

<template>
  <section class="sheet">
    <h1>Set up Bluestem for your teams</h1>
    <p class="meta">
      {{
        left
          ? 'nine steps, in any order; each can be changed later, and nothing is published before you say so'
          : 'all nine steps are done; each can be changed at any time'
      }}
      · <RouterLink to="/guide/setting-up">guide</RouterLink>
    </p>
    <div class="two">
      <ol class="steps">
        <li v-for="(step, index) in steps" :key="step.key" :class="{ done: step.isDone }">
          <span class="number" aria-hidden="true">{{ index + 1 }}</span>
          <div class="grow">
            <div class="title">
              {{ step.title
              }}<template v-if="step.isDone"
                ><span aria-hidden="true" class="well"> ✓</span
                ><span class="seen-not">: done</span></template
              >
            </div>
            <div class="quiet">{{ step.words }}</div>
          </div>
          <Button
            v-if="!step.isDone && actOf(step)"
            :severity="step.key === next ? undefined : 'secondary'"
            :disabled="!step.isOpen"
            :label="actOf(step)?.label"
            @click="doing = actOf(step)?.act"
          />
          <Button
            v-else-if="!step.isDone && (step.key in labels || isDrafted(step))"
            as="router-link"
            :severity="step.key === next ? undefined : 'secondary'"
            :class="{ later: !step.isOpen }"
            :to="linkOf(step)"
            :label="labelOf(step)"
          />
          <RouterLink
            v-else-if="step.isDone || step.key !== 'rulebook'"
            :to="addresses[step.key]"
            :aria-label="`${step.title}: ${labelOf(step)}`"
            >{{ labelOf(step) }}</RouterLink
          >
        </li>
      </ol>
      <div class="starters">
        <h2>{{ isEmpty ? 'Begin from a rulebook' : 'Or begin from another rulebook' }}</h2>
        <div v-for="starter in starters" :key="starter.id" class="starter">
          <div class="row">
            <h3 class="grow">{{ starter.title }}</h3>
            <Button
              variant="link"
              :aria-label="`See and take over: ${starter.title}`"
              label="see and take over"
              @click="looking = starter"
            />
          </div>
          <p>{{ starter.about }}</p>
          <p class="quiet">{{ sizes[starter.id] }}</p>
        </div>
        <div class="starter">
          <div class="row">
            <h3 class="grow">From a file</h3>
            <Button
              variant="link"
              aria-label="Choose a file of definitions"
              label="choose"
              @click="doing = 'file'"
            />
          </div>
          <p>Definitions that were taken out of a Bluestem, or written by hand.</p>
        </div>
      </div>
    </div>
    <StarterSheet v-if="looking" :starter="looking" @close="looking = undefined" />
    <ProjectForm v-if="doing === 'project'" @close="doing = undefined" />
    <PersonForm v-if="doing === 'person'" @close="doing = undefined" />
    <DefinitionsFile v-if="doing === 'file'" @close="doing = undefined" />
  </section>
</template>

<style scoped>
.two {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 44px;
  margin-top: 10px;
}
.steps {
  flex: 1 1 460px;
  list-style: none;
  margin: 0;
  padding: 0;
}
.steps li {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 9px 0;
  border-bottom: 1px solid var(--hair);
}
.number {
  font: 400 24px/1 var(--serif);
  width: 28px;
  color: var(--quiet);
}
.done .number {
  color: var(--leaf);
}
.title {
  font-size: 15px;
}
.starters {
  flex: 1 1 300px;
  max-width: 440px;
}
.starters h2 {
  margin: 0 0 4px;
}
.starter {
  padding: 9px 0;
  border-bottom: 1px solid var(--hair);
}
.starter h3 {
  font: 400 16px/1.3 var(--serif);
  margin: 0;
  color: var(--ink);
  text-transform: none;
  letter-spacing: 0;
}
.starter p {
  margin: 2px 0 0;
  font-size: 13.5px;
}
.later {
  opacity: 0.7;
}
</style>
