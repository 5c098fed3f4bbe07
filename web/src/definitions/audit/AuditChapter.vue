<script setup lang="ts">
import type { ActAnswer } from '@bluestem/core/audit'
import { written } from '../../parts/eventTarget.ts'
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import DayPicker from '../../parts/DayPicker.vue'
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../session/session.store.ts'
import Margin from '../../parts/Margin.vue'
import ChapterHead from '../chapter/ChapterHead.vue'
import ActMargin from './ActMargin.vue'
import { actWords } from './act.ts'
import { useNotes } from '../../parts/notes.store.ts'
import { momentWords } from '../../parts/words.ts'
import { useLiving } from '../store/living.store.ts'

/** Every change to a definition, a share or a role; the list only grows. */
const session = useSession()
const notes = useNotes()
const living = useLiving()
const wanted = reactive({ by: '', act: '', words: '', from: '', to: '' })
const acts = ref<readonly ActAnswer[]>([])
const kinds = ref<readonly string[]>([])
const more = ref<number | null>(null)
const selected = ref<ActAnswer>()

async function read(before?: number): Promise<void> {
  const query = {
    ...Object.fromEntries(Object.entries(wanted).filter(([, value]) => value !== '')),
    ...(before === undefined ? {} : { before: String(before) }),
  }
  await notes.attempt(async () => {
    const found = await call('GET /audit', { query })
    acts.value = before === undefined ? found.acts : [...acts.value, ...found.acts]
    kinds.value = found.kinds
    more.value = found.more
    selected.value ??= acts.value[0]
  })
}
watch(wanted, async () => await read(), { immediate: true })
const selectedRow = computed(() => String(selected.value?.number))
function selectRow(id: string): void {
  selected.value = acts.value.find((act) => String(act.number) === id)
}
</script>

<template>
  <section class="sheet">
    <ChapterHead
      living
      about="Who changed which definition, share or role. The list only grows."
      title="Audit"
      :may="false"
    >
      <InputText
        :model-value="wanted.words"
        @change="wanted.words = written($event)"
        class="narrow"
        type="search"
        aria-label="Words"
        placeholder="Words in it"
        size="small"
      />
      <Choice
        v-model="wanted.by"
        class="inline"
        label="By"
        none="by anyone"
        domain="person"
        :options="living.people.map((row) => ({ id: row.id, title: row.name }))"
        inline
      />
      <Choice
        v-model="wanted.act"
        class="inline"
        label="Act"
        none="any act"
        :options="kinds.map((row) => ({ id: row, title: row }))"
        inline
      />
      <span class="row days"
        >from<DayPicker
          class="day"
          :model-value="wanted.from"
          label="From"
          small
          @update:model-value="wanted.from = $event ?? ''" />to<DayPicker
          class="day"
          :model-value="wanted.to"
          label="To"
          small
          @update:model-value="wanted.to = $event ?? ''"
      /></span>
    </ChapterHead>
    <Ledger
      v-if="acts.length"
      :rows="acts"
      by="number"
      label="Acts"
      :selected="selectedRow"
      @update:selected="selectRow($event)"
      ><Column header="When" class="nowrap"
        ><template #body="{ data: act }"
          ><span class="quiet">{{ momentWords(act.at, session.now) }}</span></template
        ></Column
      >
      <Column header="By"
        ><template #body="{ data: act }">{{ act.by ?? 'Bluestem' }}</template></Column
      >
      <Column header="Act"
        ><template #body="{ data: entry }">{{ entry.act }}</template></Column
      >
      <Column header="What"
        ><template #body="{ data: act }"
          ><span class="quiet">{{ actWords(act) }}</span></template
        ></Column
      ></Ledger
    >
    <p v-else class="blank">
      {{
        Object.values(wanted).some(Boolean)
          ? 'Nothing was done like that.'
          : 'Here every change to a definition, a share or a role will stand, with who made it, what was before and what is since.'
      }}
    </p>
    <Button
      severity="secondary"
      v-if="more !== null"
      @click="read(more)"
      label="Show earlier ones"
    />
  </section>
  <Margin><ActMargin v-if="selected" :act="selected" /></Margin>
</template>

<style scoped>
.day :deep(input) {
  width: 104px;
}
.days {
  gap: 5px;
}
</style>
