<script setup lang="ts">
import type { BulkItems } from '@bluestem/core/bulk'
import Sheet from '../parts/Sheet.vue'
import { counted } from '../parts/words.ts'
import CarryOut from './CarryOut.vue'

/** Sends what is chosen to the bin, after a question. */
const { items, total } = defineProps<{ items: BulkItems; total: number }>()
const emit = defineEmits<{ close: []; done: [] }>()
</script>

<template>
  <Sheet :title="`Delete ${counted(total, 'item')}?`" @close="emit('close')">
    <p>
      They go to the bin with their history, links and comments. From there they can be brought back
      for 30 days; what stands below them stays where it is.
    </p>
    <CarryOut
      :items="items"
      :change="{ delete: true }"
      :total="total"
      :changed="total"
      :title="`Delete ${counted(total, 'item')}`"
      @close="emit('close')"
      @done="emit('done')"
    />
  </Sheet>
</template>
