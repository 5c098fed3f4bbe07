<script setup lang="ts">
import { ArrowDown, ArrowUp, X } from '@lucide/vue'
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
    (one) =>
      !columns.value.includes(one.handle) &&
      `${one.title} ${one.handle}`.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)

function move(index: number, by: -1 | 1): void {
  const next = [...columns.value]
  const [one] = next.splice(index, 1)
  next.splice(index + by, 0, one!)
  columns.value = next
}
</script>

<template>
  <Unfolding :title="`${title} ${columns.length}`">
    <ol>
      <li v-for="(column, index) in columns" :key="column">
        <span class="grow">{{ vocabulary.title(column) }}</span><Button
          variant="text"
          severity="secondary"
          size="small"
          :disabled="index === 0"
          :aria-label="`${vocabulary.title(column)} further to the left`"
          @click="move(index, -1)"
        >
          <ArrowUp class="icon" /></Button
        ><Button
          variant="text"
          severity="secondary"
          size="small"
          :disabled="index === columns.length - 1"
          :aria-label="`${vocabulary.title(column)} further to the right`"
          @click="move(index, 1)"
        >
          <ArrowDown class="icon" /></Button
        ><Button
          variant="text"
          severity="secondary"
          size="small"
          :disabled="columns.length === 1"
          :aria-label="`Take ${vocabulary.title(column)} away`"
          @click="columns = columns.filter((one) => one !== column)"
        >
          <X class="icon" />
        </Button>
      </li>
    </ol>
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
ol,
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  display: flex;
  gap: 4px;
  padding: 1px 0;
}
button {
  min-width: 24px;
  min-height: 24px;
  text-align: left;
}
ol button {
  text-align: center;
}
</style>
