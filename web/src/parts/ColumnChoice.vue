<script setup lang="ts">
import { X } from '@lucide/vue'
import ColumnOrder from './ColumnOrder.vue'
import Unfolding from './Unfolding.vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'

/** Which properties stand as columns, and in which order. */
const columns = defineModel<string[]>({ required: true })
const { title = 'Columns' } = defineProps<{ title?: string }>()
const vocabulary = useVocabulary()
const wanted = ref('')
const others = computed(() =>
  vocabulary.columns.filter(
    (column) =>
      !columns.value.includes(column.handle) &&
      `${column.title} ${column.handle}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
</script>

<template>
  <Unfolding :title="`${title} ${columns.length}`">
    <ColumnOrder v-model="columns" :title-of="vocabulary.title">
      <template #default="{ column }">
        <Button
          variant="text"
          severity="secondary"
          size="small"
          :disabled="columns.length === 1"
          :aria-label="`Take ${vocabulary.title(column)} away`"
          @click="columns = columns.filter((row) => row !== column)"
        >
          <X class="icon" />
        </Button>
      </template>
    </ColumnOrder>
    <InputText
      v-model="wanted"
      type="search"
      aria-label="Find a property"
      placeholder="add …"
      size="small"
    />
    <ul>
      <li v-for="property in others.slice(0, 40)" :key="property.handle">
        <Button
          variant="link"
          @click="columns = [...columns, property.handle]"
          :label="property.title"
        />
      </li>
    </ul>
  </Unfolding>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  padding: 1px 0;
}
li button {
  min-height: 24px;
}
</style>
