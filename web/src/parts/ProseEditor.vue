<script setup lang="ts">
import { certain, elementAt } from '@bluestem/core/known'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, nextTick, ref, useId } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { namingAt, withName } from './naming.ts'
import Prose from './Prose.vue'

/** Writing that is read as Markdown: `@` offers people by name, and what it becomes can be looked at before. */
const text = defineModel<string>({ required: true })
const { label, rows = 3 } = defineProps<{ label: string; rows?: number; placeholder?: string }>()
const emit = defineEmits<{ send: []; leave: [] }>()
const vocabulary = useVocabulary()
const id = useId()
const box = ref<HTMLElement>()
const caret = ref(0)
const at = ref(0)
/** where somebody said that nobody is meant */
const declined = ref(-1)
const looking = ref(false)

const field = (): HTMLTextAreaElement =>
  certain(box.value?.querySelector('textarea'), 'field to write in')
const naming = computed(() => namingAt(text.value, caret.value))
const offered = computed(() => {
  if (!naming.value || naming.value.from === declined.value) return []
  const words = naming.value.words.toLowerCase()
  const people = vocabulary.vocabulary?.choices.person ?? []
  const named = people.filter(
    ({ title, retired }) => !retired && ` ${title}`.toLowerCase().includes(` ${words}`),
  )
  return named.some(({ title }) => title.toLowerCase() === words.trimEnd()) ? [] : named.slice(0, 6)
})

function follow(): void {
  caret.value = field().selectionStart
  at.value = 0
}

async function name(index: number): Promise<void> {
  const { text: written, caret: after } = withName(
    text.value,
    certain(naming.value, 'name that is being written'),
    elementAt(offered.value, index).title,
  )
  text.value = written
  await nextTick()
  field().focus()
  field().setSelectionRange(after, after)
  caret.value = after
}

function keys(event: KeyboardEvent): void {
  const count = offered.value.length
  const acts: Record<string, () => void> =
    count > 0
      ? {
          ArrowDown: () => (at.value = (at.value + 1) % count),
          ArrowUp: () => (at.value = (at.value + count - 1) % count),
          Enter: () => void name(at.value),
          Tab: () => void name(at.value),
          Escape: () => (declined.value = naming.value?.from ?? -1),
        }
      : { Escape: () => emit('leave') }
  const act = event.ctrlKey && event.key === 'Enter' ? () => emit('send') : acts[event.key]
  if (!act) return
  event.preventDefault()
  event.stopPropagation()
  act()
}

defineExpose({ focus: () => field().focus() })
</script>

<template>
  <div ref="box" class="editor">
    <Textarea
      v-model="text"
      :rows="rows"
      :aria-label="label"
      :placeholder="placeholder"
      maxlength="20000"
      fluid
      aria-autocomplete="list"
      :aria-controls="offered.length ? id : undefined"
      :aria-activedescendant="offered.length ? `${id}-${at}` : undefined"
      @input="follow"
      @click="follow"
      @keyup.left="follow"
      @keyup.right="follow"
      @keydown="keys"
    />
    <ul v-if="offered.length" :id="id" class="offered" role="listbox" aria-label="People to name">
      <li
        v-for="(person, index) in offered"
        :id="`${id}-${index}`"
        :key="person.id"
        role="option"
        :aria-selected="index === at"
        :class="{ chosen: index === at }"
        @mousedown.prevent="name(index)"
      >
        {{ person.title }}
      </li>
    </ul>
    <div v-if="text.trim()" class="row">
      <slot />
      <Button
        variant="link"
        :label="looking ? 'hide what it becomes' : 'see what it becomes'"
        :aria-expanded="looking"
        @click="looking = !looking"
      />
    </div>
    <Prose v-if="looking && text.trim()" class="becomes" :text="text" />
  </div>
</template>

<style scoped>
.editor {
  position: relative;
  width: 100%;
}
.offered {
  position: absolute;
  z-index: 5;
  margin: 2px 0 0;
  padding: 3px 0;
  min-width: 200px;
  list-style: none;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
}
.offered li {
  padding: 4px 10px;
  cursor: pointer;
}
.offered li.chosen {
  background: var(--stem-wash);
}
.row {
  gap: 12px;
  margin-top: 6px;
}
.becomes {
  margin-top: 8px;
  padding-left: 12px;
  border-left: 1px solid var(--stem);
}
</style>
