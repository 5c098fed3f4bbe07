<script setup lang="ts">
import Button from 'primevue/button'
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import { useFolding } from './folding.ts'

const { folded, turn } = useFolding('margin')
</script>

<template>
  <aside :class="['margin', { folded }]" aria-label="About what is selected">
    <Button
      variant="text"
      severity="secondary"
      size="small"
      class="quiet fold"
      :aria-expanded="!folded"
      :aria-label="folded ? 'Unfold the margin' : 'Fold the margin away'"
      @click="turn"
    >
      <component :is="folded ? ChevronLeft : ChevronRight" class="icon" />
    </Button>
    <div v-if="!folded"><slot /></div>
  </aside>
</template>

<style>
.margin {
  width: var(--margin);
  flex: none;
  border-left: 1px solid var(--hair);
  padding: 20px;
  font-size: 13px;
  overflow: auto;
  position: relative;
}
.margin.folded {
  width: 34px;
  padding: 20px 6px;
}
.margin .fold {
  position: absolute;
  right: 10px;
  top: 14px;
  font-size: 18px;
  line-height: 1;
}
.margin h2,
.margin > div > p:first-child {
  margin: 0 18px 4px 0;
}
.margin h3 {
  margin: 16px 0 4px;
  font: 600 11px var(--sans);
  letter-spacing: 0.09em;
  text-transform: uppercase;
  color: var(--quiet);
}
.margin .line {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 3px 0;
  border-bottom: 1px solid var(--hair);
}
.margin .line > :last-child:not(:first-child) {
  text-align: right;
}
.margin p a {
  text-decoration: underline;
  text-decoration-thickness: 1px;
  text-underline-offset: 3px;
}
</style>
