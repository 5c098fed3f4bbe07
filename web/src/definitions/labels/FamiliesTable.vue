<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import { computed } from 'vue'
import { entriesOf, inOrder } from '@bluestem/core/definitions'
import { numberWords } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** The families of labels, with what the rulebook at hand asks of each. */
const { selected } = defineProps<{ selected?: string }>()
const emit = defineEmits<{ select: [string]; open: [string] }>()
const definitions = useDefinitions()
const living = useLiving()
const families = computed(() => inOrder(definitions.document.families))
const entries = computed(() => entriesOf(definitions.document, definitions.rulebook))
const labels = computed(() => {
  const counts = new Map<string | null, number>()
  for (const label of living.labels)
    if (!label.retired) counts.set(label.family, (counts.get(label.family) ?? 0) + 1)
  return counts
})
const asks = (id: string): string => {
  const entry = entries.value.get(`family:${id}`)
  return entry === undefined
    ? 'not offered'
    : [
        entry.closed ? 'closed to members' : 'open',
        entry.requiredFor?.length
          ? `required for ${entry.requiredFor.map((type) => definitions.document.types[type]?.title ?? type).join(', ')}`
          : '',
      ]
        .filter(Boolean)
        .join(', ')
}
</script>

<template>
  <Ledger
    v-if="families.length"
    :rows="families"
    label="Families"
    :selected="selected"
    :mark="
      (family) => ({
        'in-draft': definitions.isChanged('families', family.id),
        retired: family.retired,
      })
    "
    @update:selected="emit('select', $event)"
    @open="(family) => emit('open', family.id)"
    ><Column header="Family" class="nowrap"
      ><template #body="{ data: family }"
        >{{ family.title
        }}<span v-if="definitions.isChanged('families', family.id)" class="draft-mark"
          >in the draft</span
        ></template
      ></Column
    >
    <Column header="An item holds" class="nowrap"
      ><template #body="{ data: family }">{{
        family.pick === 'one' ? 'one of them' : 'any number'
      }}</template></Column
    >
    <Column header="When to use it"
      ><template #body="{ data: family }"
        ><span class="quiet">{{ family.description }}</span></template
      ></Column
    >
    <Column header="In this rulebook"
      ><template #body="{ data: family }"
        ><span class="quiet">{{ asks(family.id) }}</span></template
      ></Column
    >
    <Column header="Labels" class="num"
      ><template #body="{ data: family }">{{
        numberWords(labels.get(family.id) ?? 0)
      }}</template></Column
    >
    <Column header="Items" class="num"
      ><template #body="{ data: family }">{{
        numberWords(definitions.items(family.id))
      }}</template></Column
    ></Ledger
  >
  <p v-else class="blank">
    Here the families of labels would stand: labels of which an item holds one, or any number.
  </p>
</template>
