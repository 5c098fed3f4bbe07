<script setup lang="ts">
import type { ShownChoice } from '@bluestem/core/schema'
import { computed } from 'vue'
import type { Domain } from '@bluestem/core/queries'
import { initials } from './words.ts'

/** The mark of a choice within a list. The words beside it say what it says, so it is silent. */
const { domain, choice } = defineProps<{
  domain: Domain
  choice: Pick<ShownChoice, 'title' | 'mark'>
}>()
const mark = computed(() => String(choice.mark ?? ''))
const tier = computed(() => Number(mark.value.at(-1)) || 0)
</script>

<template>
  <span v-if="domain === 'status' && mark" :class="['status', mark]" aria-hidden="true" />
  <span v-else-if="domain === 'priority' && mark" class="priority" aria-hidden="true"
    ><b :data-shown="mark"
  /></span>
  <span
    v-else-if="domain === 'type' && mark"
    :class="['type', 'beside', `t${tier}`]"
    :data-shown="mark.slice(0, 2)"
    aria-hidden="true"
    ><i><b v-for="line in tier" :key="line" /></i
  ></span>
  <span
    v-else-if="domain === 'person'"
    class="initials beside"
    :data-shown="initials(choice.title)"
    aria-hidden="true"
  />
  <span
    v-else-if="domain === 'label'"
    class="label swatch"
    :data-colour="mark || undefined"
    aria-hidden="true"
  />
</template>

<style scoped>
/* Drawn, not written: the text of a choice stays its words alone. */
[data-shown]::before {
  content: attr(data-shown);
}
.beside {
  margin-right: 7px;
}
.swatch {
  margin-right: 3px;
}
/* One width, so that the names stand in line. */
.initials.beside {
  display: inline-grid;
  place-items: center;
  min-width: 28px;
  align-self: center;
  padding: 2px 3px;
}
</style>
