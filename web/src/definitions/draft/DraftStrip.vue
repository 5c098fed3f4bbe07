<script setup lang="ts">
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { counted, dayWords, momentWords } from '../../parts/words.ts'
import { useSession } from '../../session/session.store.ts'
import DraftName from './DraftName.vue'
import DropSheet from './DropSheet.vue'
import { namedInWords } from './ready.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** What is pending, at all times: which drafts there are, how many changes, what they touch, what is still open, and the way to their review. */
const definitions = useDefinitions()
const session = useSession()
const dropping = ref(false)
const naming = ref(false)
const draft = computed(() => definitions.draft)
/** What holds nothing goes at once; else it is asked first. */
function drop(): void {
  if (draft.value?.changes.length) dropping.value = true
  else void definitions.drop()
}
const proposals = computed(() =>
  definitions.drafts.filter((entry) => entry.proposed && entry.id !== draft.value?.id),
)
/** One's own first, then what waits for whoever may publish it, then what others are at. */
const choices = computed(() => {
  const { drafts } = definitions
  const own = drafts.filter((draft) => draft.mine && !draft.proposed)
  const proposed = drafts.filter((draft) => draft.proposed)
  const others = drafts.filter((draft) => !draft.mine && !draft.proposed)
  return [
    ...own.map(({ id, title, shared }) => ({
      id,
      title: `${shared ? 'your draft' : 'your draft, yours alone'}: ${title}`,
    })),
    ...proposed.map(({ id, title, by }) => ({ id, title: `proposal of ${by}: ${title}` })),
    ...others.map(({ id, title, by }) => ({ id, title: `draft of ${by}: ${title}` })),
  ]
})
const waiting = computed(() => {
  const { length } = proposals.value
  const others = definitions.drafts.filter(
    (entry) => !entry.mine && !entry.proposed && entry.id !== draft.value?.id,
  )
  return [
    ...(length > 0 ? [`${counted(length, 'proposal')} ${length === 1 ? 'waits' : 'wait'}`] : []),
    ...(others.length > 0 ? [`${counted(others.length, 'draft')} of others`] : []),
  ].join(', ')
})
const touched = computed(() => {
  if (!draft.value) return ''
  const { items, clocks } = draft.value.touched
  const running = clocks
    ? [
        `${counted(clocks.running, 'clock')} that would run${clocks.late ? `, ${clocks.late} past the limit at once` : ''}`,
      ]
    : []
  const what = [...namedInWords(draft.value), ...running]
  return items > 0 || what.length > 0 ? [counted(items, 'item'), ...what].join(', ') : ''
})
</script>

<template>
  <div
    v-if="definitions.drafts.length || definitions.mapping.length || definitions.mayDraft"
    class="strip"
    role="region"
    aria-label="Draft"
  >
    <Choice
      v-if="choices.length"
      class="inline drafts"
      label="What you look at"
      :model-value="draft?.id ?? ''"
      none="what is in force"
      :options="choices"
      inline
      @update:model-value="definitions.chosenDraft = $event"
    />
    <template v-if="draft">
      <span v-if="draft.proposed" class="quiet">{{ dayWords(draft.at, session.now) }}</span>
      <span>{{ counted(draft.changes.length, 'change') }}</span>
      <span v-if="draft.changes.length" :class="touched ? 'warn' : 'quiet'"
        >touches {{ touched || 'nothing yet' }}</span
      >
      <span
        v-if="draft.problems.length"
        class="warn cut problem"
        :title="draft.problems[0]?.message"
        >· {{ draft.problems[0]?.message }}</span
      >
      <span v-else-if="draft.open.length" class="warn"
        >· {{ counted(draft.open.length, 'question') }} open</span
      >
      <span v-else-if="draft.clashes.length" class="warn"
        >· {{ counted(draft.clashes.length, 'part') }} changed in two ways</span
      >
      <span v-if="draft.failed" class="told cut problem" :title="draft.failed"
        >not published at its time: {{ draft.failed }}</span
      >
      <span v-if="draft.schedule" class="well"
        >set for {{ momentWords(draft.schedule.at, session.now) }}</span
      >
    </template>
    <span v-if="!draft && choices.length === 0" class="quiet">no change is pending</span>
    <span v-for="entry in definitions.mapping" :key="entry.edition ?? 0" class="well" role="status"
      >edition {{ entry.edition }} rewrites items: {{ entry.moved }} of {{ entry.total }}</span
    >
    <span class="grow" />
    <span v-if="waiting" class="quiet nowrap">{{ waiting }}</span>
    <Button
      v-if="definitions.mayDraft"
      severity="secondary"
      label="New draft …"
      @click="naming = true"
    />
    <template v-if="draft">
      <template v-if="definitions.mayDraft && draft.mayPublish">
        <Button
          severity="secondary"
          v-if="draft.schedule"
          @click="definitions.callOff()"
          label="Call off"
        />
        <Button severity="secondary" @click="drop" label="Drop" />
      </template>
      <Button severity="secondary" v-else-if="draft.mine" @click="drop" label="Withdraw" />
      <Button :as="RouterLink" to="/definitions/review" label="Review" />
    </template>
  </div>
  <DraftName v-if="naming" @close="naming = false" />
  <DropSheet v-if="dropping && draft" :draft="draft" @close="dropping = false" />
</template>

<style scoped>
.strip {
  display: flex;
  align-items: center;
  gap: 12px;
  background: var(--wash);
  border-bottom: 1px solid var(--rule);
  padding: 8px var(--edge);
  flex: none;
  flex-wrap: wrap;
}
.problem {
  max-width: 220px;
}
.drafts {
  max-width: 320px;
}
</style>
