<script setup lang="ts">
import type { ActAnswer } from '@bluestem/core/audit'
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import DayPicker from '../../parts/DayPicker.vue'
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../app/session.store.ts'
import Margin from '../../parts/Margin.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { momentWords } from '../../parts/words.ts'
import { useLiving } from '../living.store.ts'

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
const what = ({ subject, title }: ActAnswer): string =>
  title === null ? subject : `${subject.split(' ')[0]} “${title}”`

/** What was recorded, a line each: where in it, and what stands there. */
function lines(value: unknown, at = ''): { readonly at: string; readonly words: string }[] {
  if (typeof value !== 'object' || value === null)
    return [
      {
        at,
        words:
          value === null || value === ''
            ? 'nothing'
            : value === true
              ? 'yes'
              : value === false
                ? 'no'
                : String(value),
      },
    ]
  if (Array.isArray(value) && value.every((one) => typeof one !== 'object'))
    return [{ at, words: value.length === 0 ? 'none' : value.join('\n') }]
  return Object.entries(value).flatMap(([key, one]) =>
    lines(
      one,
      [at, Array.isArray(value) ? String(Number(key) + 1) : key].filter(Boolean).join(', '),
    ),
  )
}
const selectedRow = computed(() => String(selected.value?.number))
function selectRow(id: string): void {
  selected.value = acts.value.find((one) => String(one.number) === id)
}
</script>

<template>
  <section class="sheet">
    <h1>Audit</h1>
    <div class="meta row wrap">
      <span>who changed which definition, share or role · by</span
      ><Choice
        v-model="wanted.by"
        class="inline"
        label="By"
        none="anyone"
        :options="living.people.map((one) => ({ id: one.id, title: one.name }))"
        inline
      />
      <span>· act</span
      ><Choice
        v-model="wanted.act"
        class="inline"
        label="Act"
        none="any"
        :options="kinds.map((one) => ({ id: one, title: one }))"
        inline
      />
      <span>· from</span
      ><DayPicker
        class="day"
        :model-value="wanted.from"
        label="From"
        small
        @update:model-value="wanted.from = $event ?? ''"
      /><span>to</span
      ><DayPicker
        class="day"
        :model-value="wanted.to"
        label="To"
        small
        @update:model-value="wanted.to = $event ?? ''"
      />
      <InputText
        :model-value="wanted.words"
        @change="wanted.words = ($event.target as HTMLInputElement).value"
        class="narrow"
        type="search"
        aria-label="Words"
        placeholder="Words in it"
        size="small"
      />
    </div>
    <Ledger
      v-if="acts.length"
      :rows="acts"
      by="number"
      label="Acts"
      :selected="selectedRow"
      @update:selected="selectRow($event!)"
      ><Column header="When" class="nowrap"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ momentWords(one.at, session.now) }}</span></template
        ></Column
      >
      <Column header="By"
        ><template #body="{ data: one }">{{ one.by ?? 'Bluestem' }}</template></Column
      >
      <Column header="Act"
        ><template #body="{ data: one }">{{ one.act }}</template></Column
      >
      <Column header="What"
        ><template #body="{ data: one }"
          ><span class="quiet">{{ what(one) }}</span></template
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
  <Margin>
    <template v-if="selected"
      ><h2>{{ selected.act }}</h2>
      <div class="quiet">
        {{ selected.by ?? 'Bluestem' }}, {{ momentWords(selected.at, session.now) }}
      </div>
      <h3>What</h3>
      <p>
        {{ what(selected)
        }}<template v-if="selected.title !== null"
          ><br /><span class="code quiet">{{ selected.subject }}</span></template
        >
      </p>
      <template
        v-for="[when, value] in [
          ['Before', selected.before],
          ['After', selected.after],
        ] as const"
        :key="when"
        ><template v-if="value !== null"
          ><h3>{{ when }}</h3>
          <dl>
            <template v-for="line in lines(value)" :key="line.at"
              ><dt :class="['quiet', { 'seen-not': !line.at }]">{{ line.at || 'its value' }}</dt>
              <dd>{{ line.words }}</dd></template
            >
          </dl></template
        ></template
      ></template
    >
  </Margin>
</template>

<style scoped>
.day :deep(input) {
  width: 130px;
}
dl {
  margin: 0;
  font-size: 13px;
}
dd {
  margin: 0 0 6px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
dt {
  font-size: 12px;
}
</style>
