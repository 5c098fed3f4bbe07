<script setup lang="ts">
import type { FinishIteration, OutcomeAnswer, SpanAnswer } from '@bluestem/core/iterations'
import type { ItemAnswer } from '@bluestem/core/queries'
import Button from 'primevue/button'
import { computed, onMounted, reactive, ref } from 'vue'
import { call, messagesOf } from '../api/http.ts'
import Choice from '../parts/Choice.vue'
import Sheet from '../parts/Sheet.vue'
import StatusMark from '../parts/StatusMark.vue'
import { counted } from '../parts/words.ts'

/** Finishing an iteration or a release: where what is open goes, all of it or item by item. */
const { span, outcome, next, finish } = defineProps<{
  span: SpanAnswer
  outcome: OutcomeAnswer
  /** those that what is open can go to */
  next: readonly { readonly id: string; readonly title: string }[]
  finish: (given: FinishIteration) => Promise<unknown>
}>()
const emit = defineEmits<{ close: []; finished: [] }>()
const nowhere = 'none'
const stay = span.id
const to = ref(next[0]?.id ?? nowhere)
/** where single items go that do not go with the rest */
const others = reactive<Record<string, string>>({})
const items = ref<readonly ItemAnswer[]>([])
const refusals = ref<readonly string[]>([])
const busy = ref(false)
/** how many open items are told one by one */
const mostShown = 200

const places = computed(() => [
  ...next.map(({ id, title }) => ({ id, title })),
  { id: nowhere, title: 'back to the backlog' },
  { id: stay, title: 'stays here' },
])
const open = outcome.open.refs

onMounted(async () => {
  if (open.length === 0) return
  const filter = { op: 'in', args: [{ property: 'ref' }, open.slice(0, mostShown)] }
  const found = await call('POST /items/search', {
    body: {
      filter,
      kept: true,
      fields: 'title,status',
      limit: mostShown,
    },
  })
  items.value = found.items
})

const placeOf = (id: string): string | null => (id === nowhere ? null : id)

async function carryOut(): Promise<void> {
  busy.value = true
  refusals.value = []
  try {
    await finish({
      to: placeOf(to.value),
      others: Object.entries(others)
        .filter(([, place]) => place !== to.value)
        .map(([ref_, place]) => ({ ref: ref_, to: placeOf(place) })),
    })
    emit('finished')
  } catch (error) {
    refusals.value = messagesOf(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet :title="`Finish ${span.title}`" wide @close="emit('close')">
    <p>
      {{ outcome.done.refs.length }} of
      {{ counted(outcome.inside.refs.length, 'item') }} done<template v-if="open.length"
        >, {{ open.length }} still open</template
      >. What is done stays in it.
    </p>
    <template v-if="open.length">
      <div class="field">
        <span>Where what is open goes</span>
        <Choice v-model="to" label="Where what is open goes" :options="places" />
      </div>
      <ul class="open" aria-label="What is open">
        <li v-for="item in items" :key="item.ref">
          <span class="quiet nowrap">{{ item.ref }}</span>
          <span class="cut" :title="item.title">{{ item.title }}</span>
          <StatusMark v-if="item.status" :status="item.status" />
          <Choice
            :model-value="others[item.ref] ?? to"
            :label="`Where ${item.ref} goes`"
            inline
            :options="places"
            @update:model-value="others[item.ref] = $event"
          />
        </li>
      </ul>
      <p v-if="open.length > mostShown" class="quiet">
        {{ open.length - mostShown }} more go with the rest.
      </p>
    </template>
    <p v-for="line in refusals" :key="line" class="told" role="alert">{{ line }}</p>
    <div class="acts">
      <Button autofocus :disabled="busy" label="Finish it" @click="carryOut" /><Button
        severity="secondary"
        label="Not now"
        @click="emit('close')"
      />
    </div>
  </Sheet>
</template>

<style scoped>
.open {
  list-style: none;
  margin: 6px 0 14px;
  padding: 0;
  max-height: 320px;
  overflow: auto;
}
.open li {
  display: grid;
  grid-template-columns: 80px minmax(0, 1fr) 130px 170px;
  gap: 10px;
  align-items: center;
  border-bottom: 1px solid var(--hair);
  padding: 3px 0;
}
</style>
