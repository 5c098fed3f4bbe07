<script setup lang="ts">
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
  <details class="choice">
    <summary class="edit">{{ title }} {{ columns.length }}</summary>
    <div class="pop">
      <ol>
        <li v-for="(column, index) in columns" :key="column">
          <span class="grow">{{ vocabulary.title(column) }}</span><button
            class="plain"
            type="button"
            :disabled="index === 0"
            :aria-label="`${vocabulary.title(column)} further to the left`"
            @click="move(index, -1)"
          >
            ↑</button
          ><button
            class="plain"
            type="button"
            :disabled="index === columns.length - 1"
            :aria-label="`${vocabulary.title(column)} further to the right`"
            @click="move(index, 1)"
          >
            ↓</button
          ><button
            class="plain"
            type="button"
            :disabled="columns.length === 1"
            :aria-label="`Take ${vocabulary.title(column)} away`"
            @click="columns = columns.filter((one) => one !== column)"
          >
            ×
          </button>
        </li>
      </ol>
      <input v-model="wanted" type="search" aria-label="Find a property" placeholder="add …" />
      <ul>
        <li v-for="property in others.slice(0, 40)" :key="property.handle">
          <button class="plain" type="button" @click="columns = [...columns, property.handle]">
            {{ property.title }}
          </button>
        </li>
      </ul>
    </div>
  </details>
</template>

<style scoped>
.choice {
  position: relative;
}
summary {
  list-style: none;
  display: inline;
}
.pop {
  position: absolute;
  right: 0;
  top: 26px;
  z-index: 14;
  width: 260px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
  padding: 10px 12px;
  max-height: 420px;
  overflow: auto;
}
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
