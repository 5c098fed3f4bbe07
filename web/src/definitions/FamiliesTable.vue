<script setup lang="ts">
import { computed } from 'vue'
import { entriesOf, inOrder } from '@bluestem/core/definitions'
import { numberWords } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'
import { useLiving } from './living.store.ts'

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
  <table v-if="families.length" class="ledger">
    <thead>
      <tr>
        <th scope="col">Family</th>
        <th scope="col">An item holds</th>
        <th scope="col">When to use it</th>
        <th scope="col">In this rulebook</th>
        <th scope="col" class="num">Labels</th>
        <th scope="col" class="num">Items</th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="family in families"
        :key="family.id"
        tabindex="0"
        :class="{
          selected: family.id === selected,
          'in-draft': definitions.isChanged('families', family.id),
          retired: family.retired,
        }"
        @click="emit('select', family.id)"
        @focus="emit('select', family.id)"
        @keydown.enter.self.prevent="emit('open', family.id)"
      >
        <td class="nowrap">
          {{ family.title
          }}<span v-if="definitions.isChanged('families', family.id)" class="draft-mark"
            >in the draft</span
          >
        </td>
        <td class="nowrap">{{ family.pick === 'one' ? 'one of them' : 'any number' }}</td>
        <td class="quiet">{{ family.description }}</td>
        <td class="quiet">{{ asks(family.id) }}</td>
        <td class="num">{{ numberWords(labels.get(family.id) ?? 0) }}</td>
        <td class="num">{{ numberWords(definitions.items(family.id)) }}</td>
      </tr>
    </tbody>
  </table>
  <p v-else class="blank">
    Here the families of labels would stand: labels of which an item holds one, or any number.
  </p>
</template>
