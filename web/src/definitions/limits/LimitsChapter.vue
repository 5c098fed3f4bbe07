<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { entriesOf, inOrder, type TimeLimit } from '@bluestem/core/definitions'
import { allowanceWords, workingTimeWords } from '@bluestem/core/limits'
import ChapterHead from '../chapter/ChapterHead.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import LimitForm from './LimitForm.vue'
import RulebookChoice from '../chapter/RulebookChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const selected = useSelected()
const editing = ref<string>()
const limits = computed(() => inOrder(definitions.document.limits))
const chosen = computed(
  () => limits.value.find((limit) => limit.id === selected.value) ?? limits.value[0],
)
const offered = (id: string): boolean =>
  entriesOf(definitions.document, definitions.rulebook).has(`limit:${id}`)
const may = computed(() => definitions.mayChange(definitions.rulebook))
const statuses = (ids: readonly string[] | undefined): string =>
  (ids ?? []).map((id) => definitions.document.statuses[id]?.title ?? id).join(', ')
const titleOf = (kind: 'label' | 'priority', id: string): string =>
  (kind === 'label'
    ? living.labels.find((label) => label.id === id)?.title
    : definitions.document.priorities[id]?.title) ?? id
const allowances = ({ allowances }: TimeLimit): { items: string; time: string }[] =>
  allowances.map((allowance) => ({
    items: allowanceWords(allowance, titleOf),
    time: workingTimeWords(allowance.minutes),
  }))
const inOneLine = (limit: TimeLimit): string =>
  allowances(limit)
    .map(({ items, time }) => `${items}: ${time}`)
    .join(' · ')
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="How long an item may stay unanswered or unfinished, in working time."
      title="Time limits"
      make="New time limit"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
      ><span>Rulebook</span><RulebookChoice
    /></ChapterHead>
    <Ledger
      v-if="limits.length"
      :rows="limits"
      label="Time limits"
      :selected="chosen?.id"
      :mark="
        (row) => ({
          'in-draft': definitions.isChanged('limits', row.id),
          retired: row.retired,
        })
      "
      @update:selected="selected = $event"
      @open="(row) => definitions.mayDefineAll && (editing = row.id)"
      ><Column header="Title" class="nowrap"
        ><template #body="{ data: limit }">{{ limit.title }}</template></Column
      >
      <Column header="Until it is"
        ><template #body="{ data: limit }">{{
          limit.what === 'respond' ? 'answered' : 'finished'
        }}</template></Column
      >
      <Column header="Allowed"
        ><template #body="{ data: limit }"
          ><span class="quiet">{{ inOneLine(limit) }}</span></template
        ></Column
      >
      <Column header="Clock starts"
        ><template #body="{ data: limit }"
          ><span class="quiet">{{ statuses(limit.starts) || 'when made' }}</span></template
        ></Column
      >
      <Column header="Stands still"
        ><template #body="{ data: limit }"
          ><span class="quiet">{{ statuses(limit.stops) || 'on hold' }}</span></template
        ></Column
      >
      <Column header="Ends"
        ><template #body="{ data: limit }"
          ><span class="quiet">{{ statuses(limit.ends) }}</span></template
        ></Column
      >
      <Column header="Warns" class="num"
        ><template #body="{ data: limit }">{{ limit.warnAt }} %</template></Column
      >
      <Column header="Here"
        ><template #body="{ data: limit }"
          ><span class="quiet">{{ offered(limit.id) ? 'kept' : '–' }}</span></template
        ></Column
      ></Ledger
    >
    <p v-else class="blank">
      Here the time limits would stand: how long something urgent may wait for its first answer, for
      example.
    </p>
    <LimitForm v-if="editing" :id="editing" @close="editing = undefined" />
  </section>
  <EntryMargin
    v-if="chosen"
    :id="chosen.id"
    :title="chosen.title"
    :sub="`until it is ${chosen.what === 'respond' ? 'answered' : 'finished'}${chosen.retired ? ', retired' : ''}`"
    :description="chosen.description"
    :countable="false"
    touches="Clocks are worked out when they are looked at, so a change holds for running ones too."
  >
    <h3>Allowed, in working time</h3>
    <div v-for="({ items, time }, index) in allowances(chosen)" :key="index" class="line">
      <span>{{ items }}</span><span>{{ time }}</span>
    </div>
    <h3>Kept by</h3>
    <p class="quiet">
      {{
        definitions.rulebooks
          .filter((one) => entriesOf(definitions.document, one.id).has(`limit:${chosen?.id}`))
          .map((one) => one.title)
          .join(', ') || 'no rulebook'
      }}
    </p>
    <template #acts
      ><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="editing = chosen.id"
        label="Change" /><Button
        severity="secondary"
        v-if="may"
        @click="
          definitions.edit([
            definitions.sayEntry(`limit:${chosen.id}`, offered(chosen.id) ? null : {}),
          ])
        "
        :label="
          offered(chosen.id) ? 'Leave out of this rulebook' : 'Keep in this rulebook'
        " /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="definitions.retire('limits', chosen.id, !chosen.retired)"
        :label="chosen.retired ? 'Bring back' : 'Retire'"
    /></template>
  </EntryMargin>
</template>
