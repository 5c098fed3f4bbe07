<script setup lang="ts">
import { ref, watch } from 'vue'
import { holdsSeveral, type Field, inOrder } from '@bluestem/core/definitions'
import { call } from '../../api/http.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import { numberWords } from '../../parts/words.ts'

/** The options of a choice, each with the items that hold it; counted when the field is looked at. */
const { field } = defineProps<{ field: Field & { readonly id: string } }>()
const items = ref<Readonly<Record<string, number>>>({})
watch(
  () => field.id,
  async (id) => {
    items.value = (
      await call('GET /definitions/usage', { query: { options: id } }).catch(() => ({ items: {} }))
    ).items
  },
  { immediate: true },
)
const filter = (option: string): unknown =>
  holdsSeveral(field.kind)
    ? { op: 'a_contains', args: [{ property: field.handle }, [option]] }
    : { op: '=', args: [{ property: field.handle }, option] }
</script>

<template>
  <h3>Options</h3>
  <div v-for="option in inOrder(field.options ?? {})" :key="option.id" class="line">
    <span
      :class="option.colour ? 'label' : ''"
      :data-colour="option.colour"
      :style="option.retired ? { textDecoration: 'line-through' } : {}"
      >{{ option.title }}</span><span
      ><RouterLink v-if="items[option.id]" :to="itemsBehind(filter(option.id))">{{
        numberWords(items[option.id] ?? 0)
      }}</RouterLink
      ><template v-else>0</template></span
    >
  </div>
</template>
