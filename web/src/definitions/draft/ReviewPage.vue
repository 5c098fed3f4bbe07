<script setup lang="ts">
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import type { DraftAnswer } from '@bluestem/core/definitions'
import { listed } from '@bluestem/core/work'
import { computed, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../../session/session.store.ts'
import DayPicker from '../../parts/DayPicker.vue'
import Margin from '../../parts/Margin.vue'
import { counted, momentWords, numberWords } from '../../parts/words.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import DraftChanges from './DraftChanges.vue'
import DraftClashes from './DraftClashes.vue'
import DraftName from './DraftName.vue'
import DraftQuestions from './DraftQuestions.vue'
import DraftReplay from './DraftReplay.vue'
import DropSheet from './DropSheet.vue'
import ReviewMargin from './ReviewMargin.vue'
import { isBlocked, namedInWords } from './ready.ts'

/** A draft as a whole before it is published: each change on both sides, what it asks, what it would have done to the past, and why it is made. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const definitions = useDefinitions()
const session = useSession()
const router = useRouter()
const note = ref('')
const later = ref<string | null>(null)
const [setsTime, asksWhy, busy] = [ref(false), ref(false), ref(false)]
const [naming, dropping] = [ref(false), ref(false)]
const refused = ref<{ readonly newly: number; readonly days: number }>()
const why = useTemplateRef<{ readonly $el: HTMLTextAreaElement }>('why')
const next = computed(() => (definitions.edition?.number ?? 0) + 1)
const may = computed(() => definitions.mayDraft && draft.mayPublish)
const people = computed(() => new Set(draft.changes.map((change) => change.by)).size)
const touched = computed(() => {
  const filters = draft.changes.flatMap((change) =>
    change.filter === undefined ? [] : [change.filter],
  )
  return filters.length > 1 ? { op: 'or', args: filters } : filters[0]
})
const named = computed(() => namedInWords(draft))

/** Whoever finds items changed wants to read why, so it is asked for. */
async function publish(): Promise<void> {
  asksWhy.value = draft.touched.items > 0 && note.value.trim() === ''
  if (asksWhy.value) return why.value?.$el.focus()
  busy.value = true
  const done = await definitions.publish(note.value.trim(), later.value ?? undefined)
  busy.value = false
  if (done && !definitions.draft)
    await router.push(session.isSettingUp ? '/definitions/start' : '/definitions/editions')
  else if (done) setsTime.value = false
}

async function drop(): Promise<void> {
  if (draft.changes.length > 0) dropping.value = true
  else {
    await definitions.drop()
    await router.push('/definitions')
  }
}
</script>

<template>
  <section class="sheet review">
    <p class="path"><RouterLink to="/definitions">Definitions</RouterLink> / draft</p>
    <div class="row head">
      <h1 class="grow">Review of “{{ draft.title }}”</h1>
      <template v-if="may">
        <Button severity="secondary" label="Name and readers …" @click="naming = true" />
        <Button severity="secondary" label="Drop …" @click="drop" />
        <Button
          v-if="draft.schedule"
          severity="secondary"
          label="Call off"
          @click="definitions.callOff()"
        />
        <Button
          v-else
          severity="secondary"
          label="At a set time …"
          :aria-expanded="setsTime"
          @click="setsTime = !setsTime"
        />
        <Button
          :disabled="isBlocked(draft) || busy"
          :label="later ? 'Set the time' : `Publish edition ${next}`"
          @click="publish"
        />
      </template>
    </div>
    <p class="meta">
      {{ draft.proposed ? 'proposed' : 'begun' }} by {{ draft.by }} on edition {{ draft.base
      }}{{ draft.base === definitions.edition?.number ? ', which is in force' : '' }};
      {{ counted(draft.changes.length, 'change') }} by {{ counted(people, 'person', 'people') }}
      <b v-if="draft.schedule" class="well"
        >set for {{ momentWords(draft.schedule.at, session.now) }}</b
      >
    </p>
    <label v-if="setsTime" class="field when"
      ><span>Publish it at (empty: now)</span
      ><DayPicker v-model="later" label="Publish it at" moment
    /></label>
    <p v-if="draft.failed" class="told">
      It was not published at the time that was set: {{ draft.failed }}
    </p>
    <ul class="figures">
      <li>
        <b>{{ numberWords(draft.touched.items) }}</b>
        {{ draft.touched.items === 1 ? 'item differs' : 'items differ' }} afterwards
        <RouterLink v-if="touched && draft.touched.items" :to="itemsBehind(touched)"
          >open them</RouterLink
        >
      </li>
      <li :class="{ warn: draft.open.length }">
        <b>{{ numberWords(draft.open.length) }}</b>
        {{ draft.open.length === 1 ? 'question is' : 'questions are' }} open
      </li>
      <li v-if="refused" :class="{ warn: refused.newly }">
        <b>{{ numberWords(refused.newly) }}</b> moves of the last {{ refused.days }} days would have
        been refused <a v-if="refused.newly" href="#replay">see why</a>
      </li>
      <li v-if="draft.touched.clocks">
        <b>{{ numberWords(draft.touched.clocks.running) }}</b> clocks would run<template
          v-if="draft.touched.clocks.late"
          >,
          <span class="warn"
            >{{ numberWords(draft.touched.clocks.late) }} past the limit at once</span
          ></template
        >
      </li>
      <li v-if="named.length">{{ listed(named) }} named</li>
    </ul>
    <DraftClashes v-if="draft.clashes.length" :draft="draft" />
    <h2>What changes</h2>
    <DraftChanges v-if="draft.changes.length" :draft="draft" />
    <p v-else class="blank">Nothing yet: what you change in a chapter stands here.</p>
    <template v-if="draft.needs.length"
      ><h2>What it asks you</h2>
      <DraftQuestions :draft="draft"
    /></template>
    <DraftReplay
      v-if="draft.changes.length"
      :draft="draft"
      @found="(newly, days) => (refused = { newly, days })"
    />
    <template v-if="may">
      <h2>
        <label for="why">Why</label
        ><span class="quiet aside"
          >asked for when items are touched; everybody reads it in the list of editions</span
        >
      </h2>
      <Textarea
        id="why"
        ref="why"
        v-model="note"
        class="why"
        rows="2"
        maxlength="2000"
        :invalid="asksWhy"
        :aria-describedby="asksWhy ? 'why-told' : undefined"
        fluid
      />
      <p v-if="asksWhy" id="why-told" class="told" role="alert">
        Say why: {{ counted(draft.touched.items, 'item') }}
        {{ draft.touched.items === 1 ? 'differs' : 'differ' }} afterwards.
      </p>
    </template>
  </section>
  <Margin><ReviewMargin :draft="draft" /></Margin>
  <DraftName v-if="naming" :draft="draft" @close="naming = false" />
  <DropSheet v-if="dropping" :draft="draft" @close="dropping = false" />
</template>

<style scoped>
.review {
  overflow: auto;
}
.review > h2,
.review :deep(h2) {
  margin: 20px 0 4px;
}
.head {
  flex-wrap: wrap;
}
.head h1 {
  flex: 1 1 300px;
  min-width: 0;
  overflow-wrap: anywhere;
}
.when {
  max-width: 260px;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  margin: 0 0 16px;
  padding: 10px 0;
  border: solid var(--rule);
  border-width: 1px 0;
  list-style: none;
  font-size: 13px;
}
.figures li {
  max-width: 300px;
}
.figures b {
  font: 22px/1.2 var(--serif);
  font-variant-numeric: lining-nums;
}
/* Links within words are told apart by more than their colour. */
.figures a {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.why {
  max-width: 640px;
}
.aside {
  margin-left: 8px;
  font: 13px var(--sans);
}
</style>
