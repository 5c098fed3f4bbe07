<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Choice from '../../parts/Choice.vue'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import {
  entriesOf,
  estimateUnits,
  flowOf,
  inOrder,
  typesOf,
  unitOf,
} from '@bluestem/core/definitions'
import TypeMark from '../../parts/TypeMark.vue'
import { numberWords } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import FormArranger from './FormArranger.vue'
import RulebookChoice from '../chapter/RulebookChoice.vue'
import TypeForm from './TypeForm.vue'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const selected = useSelected()
const editing = ref<string | 'new'>()
/** the type whose forms are arranged; an address may open them */
const asked = useRoute().query['forms']
const arranging = ref(typeof asked === 'string' ? asked : undefined)
const unused = ref(false)
const types = computed(() =>
  inOrder(definitions.document.types)
    .sort((a, b) => b.tier - a.tier)
    .filter((type) => !unused.value || definitions.isUnused(type.id, 180)),
)
const chosen = computed(
  () => types.value.find((type) => type.id === selected.value) ?? types.value[0],
)
const offered = computed(() => new Set(typesOf(definitions.document, definitions.rulebook)))
const flow = computed(
  () => chosen.value && flowOf(definitions.document, definitions.rulebook, chosen.value.id),
)
const title = (id: string): string => definitions.document.types[id]?.title ?? id
const tiers = ['the smallest', 'small', 'middling', 'large', 'the largest']
const may = computed(() => definitions.mayChange(definitions.rulebook))

/** Offers a type in the rulebook at hand as another rulebook has it, or leaves it out. */
async function offer(id: string): Promise<void> {
  if (offered.value.has(id))
    return void (await definitions.edit([definitions.sayEntry(`type:${id}`, null)]))
  const giver = definitions.rulebooks.find((rulebook) =>
    entriesOf(definitions.document, rulebook.id).has(`type:${id}`),
  )
  const entries = giver
    ? [...entriesOf(definitions.document, giver.id)].filter(([key]) => key.split(':')[1] === id)
    : []
  await definitions.edit(entries.map(([key, entry]) => definitions.sayEntry(key, entry)))
}
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="What kinds of items there are. A parent is always of a higher *tier*."
      title="Types and forms"
      make="New type"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
    >
      <span>forms as in rulebook</span><RulebookChoice /> <span>it estimates in</span
      ><Choice
        :model-value="unitOf(definitions.document, definitions.rulebook)"
        class="inline"
        :disabled="!may"
        label="Estimate unit"
        :options="estimateUnits.map((unit) => ({ id: unit, title: unit }))"
        inline
        @update:model-value="
          definitions.edit([
            definitions.sayEntry('unit', {
              unit: $event as 'hours',
            }),
          ])
        "
      />
      <UnusedChoice v-model="unused" :days="180" />
    </ChapterHead>
    <Ledger
      v-if="types.length"
      :rows="types"
      label="Types"
      :selected="chosen?.id"
      :mark="
        (type) => ({
          'in-draft': definitions.isChanged('types', type.id),
          retired: type.retired,
        })
      "
      @update:selected="selected = $event"
      @open="(type) => definitions.mayDefineAll && (editing = type.id)"
      ><Column
        ><template #header><span class="seen-not">Mark</span></template
        ><template #body="{ data: type }"
          ><TypeMark :mark="`${type.monogram}${type.tier}`" :title="type.title" /></template
      ></Column>
      <Column header="Title" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: type }"
          >{{ type.title
          }}<span v-if="definitions.isChanged('types', type.id)" class="draft-mark"
            >in the draft</span
          ></template
        ></Column
      >
      <Column header="Tier" sortable sort-field="tier" class="nowrap"
        ><template #body="{ data: type }"
          ><span class="quiet">{{ type.tier }}, {{ tiers[type.tier] }}</span></template
        ></Column
      >
      <Column header="When to use it"
        ><template #body="{ data: type }"
          ><span class="quiet">{{ type.description }}</span></template
        ></Column
      >
      <Column header="Here"
        ><template #body="{ data: type }"
          ><span class="quiet">{{ offered.has(type.id) ? 'offered' : '–' }}</span></template
        ></Column
      >
      <Column
        header="Items"
        sortable
        :sort-field="(type: { id: string }) => String(definitions.items(type.id))"
        class="num"
        ><template #body="{ data: type }">{{
          numberWords(definitions.items(type.id))
        }}</template></Column
      >
      <Column header="Named by" class="num"
        ><template #body="{ data: type }"
          ><span class="quiet">{{ definitions.usage.named[type.id]?.length ?? 0 }}</span></template
        ></Column
      ></Ledger
    >
    <p v-else class="blank">
      {{ unused ? 'Every type was used of late.' : 'Here the kinds of items would stand.' }}
      <Button
        variant="link"
        v-if="definitions.mayDefineAll && !unused"
        @click="editing = 'new'"
        label="Define the first one."
      />
    </p>
    <TypeForm v-if="editing" :id="editing" @close="editing = undefined" />
    <FormArranger v-if="arranging" :type="arranging" @close="arranging = undefined" />
  </section>
  <EntryMargin
    v-if="chosen"
    :id="chosen.id"
    :title="chosen.title"
    :sub="`${chosen.monogram}, tier ${chosen.tier}${chosen.retired ? ', retired' : ''}`"
    :description="chosen.description"
    :filter="{ op: '=', args: [{ property: 'type' }, chosen.id] }"
    touches=""
  >
    <h3>What it is</h3>
    <div class="line">
      <span>starts in</span
      ><span>{{
        flow?.start ? definitions.document.statuses[flow.start]?.title : 'not offered here'
      }}</span>
    </div>
    <div class="line">
      <span>statuses, moves</span
      ><span
        ><RouterLink :to="`/definitions/flows?type=${chosen.id}`"
          >{{ flow?.statuses.length ?? 0 }}, {{ flow?.moves.size ?? 0 }}</RouterLink
        ></span
      >
    </div>
    <div class="line">
      <span>below it</span
      ><span>{{
        chosen.below ? chosen.below.map(title).join(', ') || 'nothing' : 'any lower tier'
      }}</span>
    </div>
    <div class="line">
      <span>offered by</span
      ><span>{{
        definitions.rulebooks
          .filter((one) => typesOf(definitions.document, one.id).includes(chosen?.id ?? ''))
          .map((one) => one.title)
          .join(', ') || 'no rulebook'
      }}</span>
    </div>
    <template #acts>
      <Button
        severity="secondary"
        @click="arranging = chosen.id"
        :label="may ? 'Arrange its forms' : 'See its forms'"
      />
      <Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="editing = chosen.id"
        label="Change"
      />
      <Button
        severity="secondary"
        v-if="may"
        @click="offer(chosen.id)"
        :label="offered.has(chosen.id) ? 'Leave out of this rulebook' : 'Offer in this rulebook'"
      />
      <Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="definitions.retire('types', chosen.id, !chosen.retired)"
        :label="chosen.retired ? 'Bring back' : 'Retire'"
      />
    </template>
  </EntryMargin>
</template>
