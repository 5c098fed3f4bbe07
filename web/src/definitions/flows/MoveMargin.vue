<script setup lang="ts">
import type { Flow } from '@bluestem/core/definitions'
import { computed } from 'vue'
import { numberWords } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import type { Cell } from './FlowGrid.vue'

/** A move of a flow: whether it is allowed, what changing it would touch, and what people see of it. */
const { cell, flow, before, asks } = defineProps<{
  cell: Cell
  type: string
  flow: Flow
  before: Flow
  /** items that stand where the move begins, and where they are listed */
  standing: number
  items: string
  /** how often the move was made in so many days */
  made: number
  days: number
  /** what entering the other status needs */
  asks: string
}>()
const definitions = useDefinitions()
const title = (id: string): string => definitions.document.statuses[id]?.title ?? id
const isAllowed = computed(() => flow.moves.has(`${cell.from}:${cell.to}`))
</script>

<template>
  <h2>{{ title(cell.from) }} → {{ title(cell.to) }}</h2>
  <div :class="isAllowed ? 'well' : 'warn'">
    {{ isAllowed ? 'allowed' : 'not allowed'
    }}<template v-if="isAllowed !== before.moves.has(`${cell.from}:${cell.to}`)">
      by this draft</template
    >
  </div>
  <h3>What changing it would touch</h3>
  <div class="line">
    <span>items in {{ title(cell.from) }} now</span
    ><span
      ><RouterLink v-if="standing" :to="items">{{ numberWords(standing) }}</RouterLink
      ><template v-else>0</template></span
    >
  </div>
  <div class="line">
    <span>moves made in {{ days }} days</span><span>{{ numberWords(made) }}</span>
  </div>
  <div class="line">
    <span>boards with both columns</span
    ><span>{{
      definitions.boards.filter(
        (board) => board.columns.includes(cell.from) && board.columns.includes(cell.to),
      ).length
    }}</span>
  </div>
  <h3>What people see</h3>
  <p class="says">
    {{
      isAllowed
        ? asks
          ? `${flow.requirements.get(cell.to)?.says ?? ''} Needs: ${asks}.`
          : 'They may go, and nothing is asked.'
        : `${definitions.document.types[type]?.title} does not go from ${title(cell.from)} to ${title(cell.to)}.`
    }}
  </p>
</template>

<style scoped>
.says {
  font: italic 15px/1.4 var(--serif);
}
</style>
