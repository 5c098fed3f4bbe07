<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import type { ImportAnswer, ImportCheck } from '@bluestem/core/exchange'
import Button from 'primevue/button'
import FileUpload, { type FileUploadUploaderEvent } from 'primevue/fileupload'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { messageOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Choice from '../parts/Choice.vue'
import { useNotes } from '../parts/notes.store.ts'
import { counted, numberWords } from '../parts/words.ts'
import { decode } from './decode.ts'
import ImportColumns from './ImportColumns.vue'
import ImportProblems from './ImportProblems.vue'
import ImportProgress from './ImportProgress.vue'
import { saveFile } from './saveFile.ts'
import UnknownChoices from './UnknownChoices.vue'

/** Brings items in from a file: what its columns become, what its rows would do, and then all of it or nothing. */
const route = useRoute()
const notes = useNotes()
const vocabulary = useVocabulary()
const project = ref(String(route.query['project'] ?? ''))
const projects = computed(
  () => vocabulary.vocabulary?.projects.map(({ code, title }) => ({ id: code, title })) ?? [],
)
const projectId = computed(
  () => vocabulary.vocabulary?.projects.find(({ code }) => code === project.value)?.id ?? '',
)
const file = ref<ImportAnswer>()
const encoding = ref('')
const text = ref('')
const reading = ref<ImportAnswer['reading']>()
const check = ref<ImportCheck>()
const wrong = ref('')
const isBusy = ref(false)

async function take(separator?: ImportAnswer['separator']): Promise<void> {
  wrong.value = ''
  check.value = undefined
  isBusy.value = true
  try {
    const name = file.value?.name ?? fileName
    const body = { project: project.value, name, text: text.value }
    file.value = await call('POST /imports', { body: separator ? { ...body, separator } : body })
    reading.value = file.value.reading
  } catch (error) {
    wrong.value = messageOf(error)
  }
  isBusy.value = false
}

let fileName = ''
async function choose({ files }: FileUploadUploaderEvent): Promise<void> {
  const [chosen] = [files].flat()
  if (!chosen) return
  const decoded = decode(new Uint8Array(await chosen.arrayBuffer()))
  file.value = undefined
  fileName = chosen.name
  text.value = decoded.text
  encoding.value = decoded.encoding
  await take()
}

/** More rows than are looked at while one waits without asking how far it is. */
const manyRows = 2000
/** How long is waited between two questions how far a file is, in milliseconds. */
const pause = 500
const rest = async (): Promise<unknown> =>
  await new Promise((done) => window.setTimeout(done, pause))

let timer = 0
let round = 0
async function look(): Promise<void> {
  if (!file.value || !reading.value) return
  const mine = (round += 1)
  isBusy.value = true
  file.value = { ...file.value, done: 0 }
  // What is wrong is told by the look itself, not by how far it is.
  if (file.value.rows > manyRows) void follow(file.value.id, mine).catch(() => undefined)
  try {
    const found = await call('POST /imports/{id}/check', {
      params: { id: file.value.id },
      body: reading.value,
    })
    if (mine !== round) return
    check.value = found
    wrong.value = ''
  } catch (error) {
    if (mine === round) wrong.value = messageOf(error)
  }
  if (mine === round) isBusy.value = false
}
/** Tells how far a look at many rows is, until it is over. */
async function follow(id: string, mine: number): Promise<void> {
  const goesOn = (): boolean => mine === round && isBusy.value && isHere
  await rest()
  while (goesOn()) {
    const { done } = await call('GET /imports/{id}', { params: { id } })
    if (goesOn() && file.value) file.value = { ...file.value, done }
    await rest()
  }
}
const isLong = computed(
  () => file.value !== undefined && file.value.rows > manyRows && isBusy.value && !check.value,
)
watch(
  () => JSON.stringify([file.value?.id, reading.value]),
  () => {
    window.clearTimeout(timer)
    check.value = undefined
    timer = window.setTimeout(() => void look(), 300)
  },
)

let isHere = true
onBeforeUnmount(() => {
  isHere = false
  window.clearTimeout(timer)
})
const isComing = computed(() => file.value?.state === 'waiting' || file.value?.state === 'at work')
const isDone = computed(() => file.value?.state === 'done')

async function bringIn(goodOnly: boolean): Promise<void> {
  const { id } = certain(file.value, 'file that is brought in')
  await notes.attempt(async () => {
    file.value = await call('POST /imports/{id}/carry-out', { params: { id }, body: { goodOnly } })
    while (isComing.value && isHere) {
      await rest()
      file.value = await call('GET /imports/{id}', { params: { id } })
    }
    if (file.value.state === 'refused') throw new Error(file.value.reason ?? 'Nothing came in.')
  })
}

async function takeRest(): Promise<void> {
  const { id, name } = certain(file.value, 'file that is brought in')
  await notes.attempt(async () => {
    saveFile(`left-${name}`, await call('GET /imports/{id}/rest', { params: { id } }), 'text/csv')
  })
}

function again(): void {
  file.value = undefined
  reading.value = undefined
  check.value = undefined
  text.value = ''
}
const coming = computed(() => (check.value ? check.value.made + check.value.changed : 0))
const separatorTitles = [
  { id: ',' as const, title: 'comma' },
  { id: ';' as const, title: 'semicolon' },
  { id: '\t' as const, title: 'tab' },
  { id: '|' as const, title: 'upright line' },
]
</script>

<template>
  <section class="sheet">
    <h1>Bring in a file</h1>
    <p class="meta">
      <RouterLink to="/work">Work</RouterLink> / items from a spreadsheet or another tracker, as
      CSV. Nothing is made before you have seen what every row would do.
    </p>
    <template v-if="!file">
      <div class="begin">
        <label class="field"
          ><span>Into which project</span
          ><Choice v-model="project" label="Into which project" :options="projects"
        /></label>
        <FileUpload
          mode="basic"
          custom-upload
          auto
          accept=".csv,.tsv,.txt,text/csv"
          :disabled="project === '' || isBusy"
          choose-label="Choose a file …"
          @uploader="choose"
        />
      </div>
      <p v-if="wrong" class="told" role="alert">{{ wrong }}</p>
      <p class="blank">
        The first line holds the headings. A column <b>Ref</b> says which item a row changes;
        without it rows make new items, unless you say which field tells them apart. Columns of
        another tracker’s numbers let rows stand below each other and be linked.
      </p>
    </template>
    <template v-else-if="isDone">
      <p class="outcome" role="status">
        <b>{{ counted(file.counts?.made ?? 0, 'item') }}</b> made,
        <b>{{ numberWords(file.counts?.changed ?? 0) }}</b> changed,
        {{ numberWords(file.counts?.same ?? 0) }} as they were<template v-if="file.counts?.wrong"
          >, <span class="warn">{{ counted(file.counts.wrong, 'row') }} left out</span></template
        >.
      </p>
      <div class="acts">
        <Button as="router-link" :to="`/work/${project}`" label="See the project" />
        <Button
          v-if="file.counts?.wrong"
          severity="secondary"
          label="Export the rest"
          @click="takeRest"
        />
        <Button severity="secondary" label="Another file" @click="again" />
      </div>
    </template>
    <template v-else>
      <div class="row how">
        <b>{{ file.name }}</b>
        <span class="quiet">{{ counted(file.rows, 'row') }}, {{ encoding }}, parted by</span>
        <Choice
          :model-value="file.separator"
          label="What parts the cells"
          inline
          :options="separatorTitles"
          @update:model-value="$event && take($event)"
        />
        <span class="grow" />
        <Button variant="link" label="another file" @click="again" />
      </div>
      <ImportColumns v-if="reading" v-model="reading" :columns="file.columns" :links="file.links" />
      <div class="outcome" aria-live="polite">
        <p v-if="wrong" class="told" role="alert">{{ wrong }}</p>
        <p v-else-if="check">
          <b>{{ counted(check.made, 'item') }}</b> would be made,
          <b>{{ numberWords(check.changed) }}</b> changed, {{ numberWords(check.same) }} are as they
          are<template v-if="check.wrong"
            >; <span class="warn">{{ counted(check.wrong, 'row') }} cannot come in</span></template
          ><template v-if="check.links">; {{ counted(check.links, 'link') }} would be made</template
          >.
        </p>
        <p v-else class="quiet">Each row is looked at …</p>
      </div>
      <ImportProgress v-if="isComing || isLong" :done="file.done" :rows="file.rows" />
      <div v-if="!isComing" class="acts">
        <Button
          v-if="!check || check.wrong === 0"
          :disabled="!check || coming === 0 || isBusy"
          :label="check ? `Bring in ${counted(coming, 'item')}` : 'Bring in'"
          @click="bringIn(false)"
        />
        <template v-else>
          <Button
            v-if="coming > 0"
            :disabled="isBusy"
            :label="`Bring in the ${counted(coming, 'good row')} alone`"
            @click="bringIn(true)"
          />
          <Button severity="secondary" label="Export the wrong rows" @click="takeRest" />
        </template>
      </div>
      <UnknownChoices
        v-if="check?.unknown.length"
        :unknown="check.unknown"
        :project="projectId"
        @made="look"
      />
      <ImportProblems v-if="check?.problemCount" :check="check" />
    </template>
  </section>
</template>

<style scoped>
.begin {
  display: flex;
  align-items: flex-end;
  gap: 14px;
  max-width: 560px;
  margin: 16px 0;
}
.begin .field {
  flex: 1;
  margin: 0;
}
.how {
  margin: 12px 0;
  gap: 8px;
}
.outcome {
  margin: 14px 0;
  font-size: 15px;
}
</style>
