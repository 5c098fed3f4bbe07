<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import type { ItemAnswer } from '@bluestem/core/queries'
import InputText from 'primevue/inputtext'
import { onBeforeUnmount, ref } from 'vue'
import { messageOf } from '../api/http.ts'
import TypeMark from '../parts/TypeMark.vue'
import { findSimilar } from '../parts/findItems.ts'
import { counted } from '../parts/words.ts'
import { useJots } from './jots.store.ts'

/** One line to jot in: a title, Enter, the next. Many pasted lines are jotted at once. */
const emit = defineEmits<{ kept: [readonly string[]] }>()
const jots = useJots()
const title = ref('')
const refusal = ref('')
const said = ref('')
const busy = ref(false)
const similar = ref<readonly ItemAnswer[]>([])
let timer = 0
onBeforeUnmount(() => window.clearTimeout(timer))

/** While one writes, what is already open under a similar title is looked for. */
function look(): void {
  refusal.value = ''
  window.clearTimeout(timer)
  timer = window.setTimeout(async () => {
    const asked = title.value
    const found = await findSimilar(asked, 3).catch(() => [])
    if (asked === title.value) similar.value = found
  }, 250)
}

async function keep(text: string): Promise<boolean> {
  if (text.trim() === '' || busy.value) return false
  busy.value = true
  refusal.value = ''
  try {
    const kept = await jots.keep(text)
    said.value =
      kept.length === 1
        ? `jotted: ${firstIn(kept).title}`
        : `jotted ${counted(kept.length, 'line')}`
    similar.value = []
    emit(
      'kept',
      kept.map(({ id }) => id),
    )
    return true
  } catch (error) {
    refusal.value = messageOf(error)
    return false
  } finally {
    busy.value = false
  }
}

async function enter(): Promise<void> {
  if (await keep(title.value)) title.value = ''
}

/** Several lines do not fit into one: they are jotted as they are, with what is indented below. */
function paste(event: ClipboardEvent): void {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (!/\S[^\S\n]*\r?\n[\s\S]*\S/.test(text)) return
  event.preventDefault()
  void keep(text)
}
</script>

<template>
  <div>
    <InputText
      v-model="title"
      autofocus
      fluid
      maxlength="300"
      aria-label="A title to jot down"
      aria-describedby="jot-hint"
      placeholder="a title, then Enter for the next"
      @update:model-value="look"
      @keydown.enter.prevent="enter"
      @paste="paste"
    />
    <p id="jot-hint" class="quiet hint">
      <span>Paste a list to jot all its lines; what is indented stands below.</span>
      <span role="status" class="cut">{{ said }}</span>
    </p>
    <p v-if="refusal" class="told" role="alert">{{ refusal }}</p>
    <div v-if="similar.length" class="similar" role="status">
      <span class="quiet">Open already, by similar words:</span>
      <RouterLink v-for="item in similar" :key="item.ref" :to="`/work/${item.ref}`">
        <TypeMark :mark="String(item.type.mark)" :title="item.type.title" />
        <span class="quiet nowrap">{{ item.ref }}</span>
        <span class="cut">{{ item.title }}</span>
      </RouterLink>
    </div>
  </div>
</template>

<style scoped>
.hint {
  display: flex;
  flex-wrap: wrap;
  margin: 4px 0;
}
.hint [role='status'] {
  color: var(--leaf);
  margin-left: 6px;
}
.similar {
  display: grid;
  gap: 2px;
  margin: 6px 0;
}
.similar a {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
