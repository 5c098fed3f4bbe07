<script setup lang="ts">
import { withBelow, writeJots } from '@bluestem/core/jots'
import Checkbox from 'primevue/checkbox'
import Column from 'primevue/column'
import InputText from 'primevue/inputtext'
import { computed, onMounted, ref } from 'vue'
import { around, written } from '../parts/eventTarget.ts'
import { useSession } from '../session/session.store.ts'
import Ledger from '../parts/Ledger.vue'
import { useNotes } from '../parts/notes.store.ts'
import { vFocus } from '../parts/vFocus.ts'
import { agoWords, counted } from '../parts/words.ts'
import FileJots from './FileJots.vue'
import { useJots } from './jots.store.ts'
import JotLine from './JotLine.vue'
import { type JotRow, treeOf } from './tree.ts'

/** What one jotted, until it is filed: titles without a project and a type. */
const jots = useJots()
const session = useSession()
const notes = useNotes()
const selected = ref<string>()
const renaming = ref<string>()
const chosen = ref<ReadonlySet<string>>(new Set())
onMounted(() => notes.attempt(jots.load))

const rows = computed(() => treeOf(jots.jots ?? []))
const isAll = computed(
  () => rows.value.length > 0 && rows.value.every(({ id }) => chosen.value.has(id)),
)

/** Chooses a line with what stands below it, or leaves both out. */
function choose({ id }: JotRow): void {
  const meant = withBelow(rows.value, id)
  const next = new Set(chosen.value)
  const isTaken = !next.has(id)
  for (const entry of meant)
    if (isTaken) next.add(entry)
    else next.delete(entry)
  chosen.value = next
}
function chooseAll(): void {
  chosen.value = new Set(isAll.value ? [] : rows.value.map(({ id }) => id))
}

/** Leaves what was written for the row it stands in. */
function toRow(event: KeyboardEvent): void {
  around(event, 'tr')?.focus()
}

async function rename(jot: JotRow, title: string): Promise<void> {
  if (title.trim() === '' || title === jot.title) return
  await notes.attempt(async () => await jots.rename(jot.id, title))
}

/** Drops what is chosen; it can be jotted again as it was. */
async function drop(): Promise<void> {
  const dropped = rows.value.filter(({ id }) => chosen.value.has(id))
  const places = new Map(dropped.map(({ id }, place) => [id, place]))
  const text = writeJots(
    dropped.map(({ title, above }) => ({
      title,
      above: (above === null ? null : places.get(above)) ?? null,
    })),
  )
  const wentWell = await notes.attempt(async () => await jots.drop(dropped.map(({ id }) => id)))
  if (!wentWell) return
  chosen.value = new Set()
  notes.show('well', `${counted(dropped.length, 'line')} dropped.`, {
    title: 'Undo',
    run: () => void notes.attempt(async () => void (await jots.keep(text))),
  })
}
</script>

<template>
  <section class="sheet fixed">
    <h1>Unfiled</h1>
    <p class="meta">
      <RouterLink to="/work">Work</RouterLink> / what you jotted down; only you see it until it has
      a project and a type
    </p>
    <JotLine class="jot" />
    <div v-if="rows.length" class="list">
      <Ledger
        v-model:selected="selected"
        :rows="rows"
        label="Unfiled lines"
        @open="renaming = $event.id"
        @choose="choose"
      >
        <Column class="tick">
          <template #header
            ><Checkbox
              binary
              :model-value="isAll"
              :indeterminate="chosen.size > 0 && !isAll"
              aria-label="Choose all lines"
              @update:model-value="chooseAll"
          /></template>
          <template #body="{ data: row }: { data: JotRow }"
            ><Checkbox
              binary
              :model-value="chosen.has(row.id)"
              :aria-label="`Choose ${row.title}`"
              @update:model-value="choose(row)"
          /></template>
        </Column>
        <Column header="Title">
          <template #body="{ data: row }: { data: JotRow }">
            <div :style="{ paddingLeft: `${row.depth * 22}px` }">
              <InputText
                v-if="renaming === row.id"
                v-focus
                size="small"
                :model-value="row.title"
                :aria-label="`Title of ${row.title}`"
                maxlength="300"
                fluid
                @change="rename(row, written($event))"
                @keydown.enter.stop="toRow"
                @keydown.escape.stop="toRow"
                @blur="renaming = undefined"
              />
              <template v-else>{{ row.title }}</template>
            </div>
          </template>
        </Column>
        <Column header="Jotted" class="nowrap">
          <template #body="{ data: row }: { data: JotRow }"
            ><span class="quiet">{{ agoWords(row.at, session.now) }}</span></template
          >
        </Column>
      </Ledger>
    </div>
    <p v-else-if="jots.jots" class="blank">
      Nothing is unfiled. Press J anywhere to jot titles down; they wait here until you file them.
    </p>
    <FileJots
      v-if="rows.length"
      :jots="rows"
      :chosen="chosen"
      @filed="chosen = new Set()"
      @drop="drop"
    />
  </section>
</template>

<style scoped>
.jot {
  max-width: 720px;
  margin: 8px 0;
}
.list {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.list :deep(.tick) {
  width: 34px;
}
</style>
