<script setup lang="ts">
import Button from 'primevue/button'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { allChosen, type Chosen, countChosen, noneChosen } from '../parts/chosen.ts'
import { isWriting } from '../parts/isWriting.ts'
import { counted, numberWords } from '../parts/words.ts'
import ChangeMany from './ChangeMany.vue'
import DeleteMany from './DeleteMany.vue'
import { itemsOf } from './many.ts'

/** What can be done with the items that are chosen in a list: all of it at once. */
const { filter, total } = defineProps<{
  /** the query whose answers the list shows, with identities */
  filter: unknown
  total: number
}>()
const chosen = defineModel<Chosen>('chosen', { required: true })
const emit = defineEmits<{ done: [] }>()
const open = ref<'change' | 'delete'>()

/** The key for changing what is chosen. */
function listen(event: KeyboardEvent): void {
  const isPlain = !event.ctrlKey && !event.metaKey && !event.altKey
  if (event.key !== 'c' || !isPlain || isWriting(event.target) || open.value) return
  if (countChosen(chosen.value, total) === 0) return
  event.preventDefault()
  open.value = 'change'
}
// What was chosen among the answers of another question is no longer meant.
watch(
  () => JSON.stringify(filter),
  () => (chosen.value = noneChosen),
)
onMounted(() => window.addEventListener('keydown', listen))
onBeforeUnmount(() => window.removeEventListener('keydown', listen))

function done(): void {
  open.value = undefined
  chosen.value = noneChosen
  emit('done')
}
</script>

<template>
  <div v-if="countChosen(chosen, total) > 0" class="many" role="region" aria-label="What is chosen">
    <span aria-live="polite"
      ><b>{{ counted(countChosen(chosen, total), 'item') }}</b> chosen</span
    >
    <Button
      v-if="!chosen.all && total > chosen.refs.size"
      variant="link"
      :label="`choose all ${numberWords(total)} answers`"
      @click="chosen = allChosen"
    />
    <Button variant="link" label="choose none" @click="chosen = noneChosen" />
    <span class="grow" />
    <slot />
    <Button severity="secondary" label="Delete …" @click="open = 'delete'" />
    <Button label="Change …" aria-keyshortcuts="c" @click="open = 'change'" />
  </div>
  <ChangeMany
    v-if="open === 'change'"
    :items="itemsOf(chosen, filter)"
    :total="countChosen(chosen, total)"
    @close="open = undefined"
    @done="done"
  />
  <DeleteMany
    v-if="open === 'delete'"
    :items="itemsOf(chosen, filter)"
    :total="countChosen(chosen, total)"
    @close="open = undefined"
    @done="done"
  />
</template>

<style scoped>
.many {
  display: flex;
  align-items: center;
  gap: 14px;
  flex: none;
  padding: 8px 0;
  border-top: 1px solid var(--rule);
}
</style>
