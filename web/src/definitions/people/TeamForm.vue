<script setup lang="ts">
import type { TeamAnswer } from '@bluestem/core/teams'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { inOneLine, type Line, type QueryError, readQuery } from '@bluestem/core/queries'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import Labelled from '../../parts/Labelled.vue'
import Sheet from '../../parts/Sheet.vue'
import { useRefusal } from '../../parts/refusal.ts'
import QueryText from '../../queries/QueryText.vue'
import PeopleChoice from './PeopleChoice.vue'
import { useLiving } from '../store/living.store.ts'

/** A team: who is in it, which items are theirs, and when they work. */
const { team } = defineProps<{ team?: TeamAnswer }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const living = useLiving()
const vocabulary = useVocabulary()
const title = ref(team?.title ?? '')
const remit = ref(team?.remit.text ?? '')
const calendar = ref(team?.calendar ?? '')
const people = ref<readonly string[]>(team?.people ?? [])
const errors = ref<readonly QueryError[]>(team?.remit.errors ?? [])
const sentence = ref<readonly Line[]>(team?.remit.sentence ?? [])
const { attempt, at, words, busy } = useRefusal()

watch(remit, (filter) => {
  if (filter.trim() === '') return void (errors.value = [])
  const read = readQuery({ lang: 'cql2-text', filter }, vocabulary.names)
  errors.value = read.ok ? [] : read.errors
  if (read.ok) sentence.value = read.value.sentence
})

const keep = async (): Promise<void> =>
  void (await attempt(async () => {
    const given = {
      title: title.value,
      remit: remit.value,
      calendar: calendar.value || null,
      people: people.value,
    }
    const { id } = team
      ? await living.send('PATCH /teams/{id}', {
          params: { id: team.id },
          body: given,
          match: team.version,
        })
      : await living.send('POST /teams', { body: given })
    emit('kept', id)
    emit('close')
  }))
</script>

<template>
  <Sheet :title="team ? `Change ${team.title}` : 'New team'" wide @close="emit('close')">
    <form @submit.prevent="keep">
      <div class="row">
        <Labelled class="grow" label="Title" :wrong="at('/title')"
          ><InputText
            v-model="title"
            required
            maxlength="80"
            autofocus
            :invalid="!!at('/title')"
            fluid /></Labelled
        ><label class="field"
          ><span>Works by</span
          ><Choice
            v-model="calendar"
            label="Works by"
            none="the calendar of each project"
            :options="living.calendars.map((row) => ({ id: row.id, title: row.title }))"
        /></label>
      </div>
      <div class="field">
        <span>Remit: which items are theirs</span
        ><QueryText
          v-model="remit"
          :errors="errors"
          empty="For example: phase &lt;&gt; 'done' AND urgency &lt;= 2"
        />
        <p v-if="errors.length" class="told" role="alert">{{ errors[0]?.message }}</p>
        <p v-else class="quiet read">
          {{
            remit.trim() ? inOneLine(sentence) : 'Nothing yet: then no item runs by their calendar.'
          }}
        </p>
      </div>
      <PeopleChoice v-model="people" legend="People" viewers />
      <p v-if="words" class="told" role="alert">{{ words }}</p>
      <div class="acts">
        <Button
          type="submit"
          :disabled="busy || errors.length > 0"
          :label="team ? 'Keep' : 'Make the team'"
        /><Button severity="secondary" @click="emit('close')" label="Not now" />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.read {
  margin-top: 5px;
}
</style>
