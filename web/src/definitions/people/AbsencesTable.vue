<script setup lang="ts">
import type { AbsenceAnswer } from '@bluestem/core/iterations'
import Button from 'primevue/button'
import Column from 'primevue/column'
import InputText from 'primevue/inputtext'
import { computed, onMounted, reactive, ref } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../session/session.store.ts'
import Choice from '../../parts/Choice.vue'
import DayPicker from '../../parts/DayPicker.vue'
import Ledger from '../../parts/Ledger.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { useRefusal } from '../../parts/refusal.ts'
import { counted, dayWords } from '../../parts/words.ts'
import { dayIn } from '../../session/zone.ts'
import { useLiving } from '../store/living.store.ts'

/** On which days people are away: the capacity of iterations counts on it. Everybody tells their own. */
const living = useLiving()
const session = useSession()
const notes = useNotes()
const { attempt, at, words, busy } = useRefusal()
const absences = ref<readonly AbsenceAnswer[]>()
const selected = ref<string>()
const pastToo = ref(false)
const me = session.session?.person.id ?? ''
const form = reactive<{
  person: string
  start: string | null
  end: string | null
  note: string
}>({
  person: me,
  start: null,
  end: null,
  note: '',
})

async function load(): Promise<void> {
  await notes.attempt(async () => {
    absences.value = (await call('GET /absences')).absences
  })
}
onMounted(load)

const today = computed(() => dayIn(session.now))
const rows = computed(() =>
  (absences.value ?? [])
    .filter(({ end }) => pastToo.value || end >= today.value)
    .map((absence) => ({ ...absence, key: String(absence.id) })),
)
const past = computed(() => (absences.value ?? []).filter(({ end }) => end < today.value).length)
const people = computed(() =>
  living.people.filter(({ active }) => active).map(({ id, name }) => ({ id, title: name })),
)
const mayTake = (entry: AbsenceAnswer): boolean =>
  session.mayDefine || (session.mayEdit && entry.person.id === me)

const add = async (): Promise<void> =>
  void (await attempt(async () => {
    const { person, start, end, note } = form
    await call('POST /absences', {
      body: { person, start: start ?? '', end: end ?? start ?? '', note },
    })
    form.start = form.end = null
    form.note = ''
    await load()
  }))

/** Takes an absence back; it can be told again as it was. */
async function drop({ id, person, start, end, note }: AbsenceAnswer): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    await call('DELETE /absences/{absence}', { params: { absence: id } })
  })
  if (!wentWell) return
  await load()
  const again = async (): Promise<void> => {
    await call('POST /absences', { body: { person: person.id, start, end, note } })
    await load()
  }
  notes.show('well', `${person.title} is not away any more.`, {
    title: 'Undo',
    run: () => void notes.attempt(again),
  })
}
</script>

<template>
  <form v-if="session.mayEdit" class="add" @submit.prevent="add">
    <Choice v-if="session.mayDefine" v-model="form.person" label="Who is away" :options="people" />
    <span v-else>You are away</span>
    <DayPicker v-model="form.start" label="First day away" placeholder="first day" />
    <DayPicker v-model="form.end" label="Last day away" placeholder="last day" />
    <InputText
      v-model="form.note"
      maxlength="200"
      placeholder="why, if others may know"
      aria-label="Note"
      fluid
    />
    <Button type="submit" label="Add" :disabled="busy || !form.start" />
    <p v-if="at('/start') || at('/end') || words" class="told" role="alert">
      {{ at('/start') || at('/end') || words }}
    </p>
  </form>
  <Ledger v-if="rows.length" v-model:selected="selected" :rows="rows" by="key" label="Who is away">
    <Column header="Who" sortable sort-field="person.title" class="nowrap">
      <template #body="{ data: row }: { data: AbsenceAnswer }">{{ row.person.title }}</template>
    </Column>
    <Column header="From" sortable sort-field="start" class="nowrap">
      <template #body="{ data: row }: { data: AbsenceAnswer }">{{
        dayWords(row.start, session.now)
      }}</template>
    </Column>
    <Column header="To" sortable sort-field="end" class="nowrap">
      <template #body="{ data: row }: { data: AbsenceAnswer }">{{
        dayWords(row.end, session.now)
      }}</template>
    </Column>
    <Column header="Note" field="note" />
    <Column>
      <template #header><span class="seen-not">Acts</span></template>
      <template #body="{ data: row }: { data: AbsenceAnswer }"
        ><Button
          v-if="mayTake(row)"
          variant="link"
          label="take back"
          :aria-label="`Take back the absence of ${row.person.title}`"
          @click="drop(row)"
      /></template>
    </Column>
  </Ledger>
  <p v-else-if="absences" class="blank">
    Nobody said that they will be away. What stands here lessens what a team can work in an
    iteration.
  </p>
  <Button
    v-if="past > 0 && !pastToo"
    variant="link"
    :label="`show ${counted(past, 'absence')} that ${past === 1 ? 'is' : 'are'} over`"
    @click="pastToo = true"
  />
</template>

<style scoped>
.add {
  display: grid;
  grid-template-columns: 180px 150px 150px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  margin: 10px 0;
}
.add .told {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
