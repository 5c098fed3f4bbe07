<script setup lang="ts">
import { elementAt } from '@bluestem/core/known'
import { ArrowDown, ArrowUp, X } from '@lucide/vue'
import Button from 'primevue/button'
import Choice from '../../parts/Choice.vue'
import { computed, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import {
  inOrder,
  orderBetween,
  projectsOnLadder,
  type Edit,
  type Ladder,
  type Ordered,
} from '@bluestem/core/definitions'
import { firstOf, numberWords } from '../../parts/words.ts'
import { holding } from '@bluestem/core/definitions'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A ladder as a column: its rungs in order, the default, and always who follows it. */
const { ladder } = defineProps<{ ladder: Ladder & { readonly id: string } }>()
const selected = defineModel<string>('selected')
const definitions = useDefinitions()
const living = useLiving()
const rungs = ref<{ id: string }[]>([])
const told = ref('')
watch(
  () => ladder,
  () => {
    rungs.value = inOrder<Ordered>(ladder.rungs).map(({ id }) => ({ id }))
  },
  { immediate: true },
)
const projects = computed(() => projectsOnLadder(definitions.document, ladder.id))
const books = computed(() =>
  definitions.rulebooks.filter((rulebook) => {
    const entry = rulebook.entries['ladder']
    return entry !== undefined && entry !== 'out' && entry.ladder === ladder.id
  }),
)
const title = (id: string): string => definitions.document.priorities[id]?.title ?? id
const items = (id: string): number =>
  holding(definitions.usage, 'priority', id, { projects: projects.value })
const off = computed(() =>
  inOrder(definitions.document.priorities).filter(
    (priority) => !priority.retired && !ladder.rungs[priority.id],
  ),
)
const path = (...rest: string[]): string[] => ['ladders', ladder.id, ...rest]

/** One rung takes a new key between its neighbours; the others keep theirs. */
async function place(id: string, to: number): Promise<void> {
  const others = inOrder<Ordered>(ladder.rungs).filter((rung) => rung.id !== id)
  const edit: Edit = {
    path: path('rungs', id, 'order'),
    after: orderBetween(others[to - 1]?.order ?? null, others[to]?.order ?? null),
  }
  if (!(await definitions.edit([edit])))
    rungs.value = inOrder<Ordered>(ladder.rungs).map((rung) => ({ id: rung.id }))
  told.value = `${title(id)} is now rung ${to + 1} of ${rungs.value.length}`
}
const dropped = (event: { newIndex?: number | undefined }): void => {
  const at = event.newIndex ?? 0
  void place(elementAt(rungs.value, at).id, at)
}
const move = (index: number, by: -1 | 1): void => {
  if (index + by >= 0 && index + by < rungs.value.length)
    void place(elementAt(rungs.value, index).id, index + by)
}
const putOn = async (id: string): Promise<void> => {
  if (id)
    await definitions.edit([
      {
        path: path('rungs', id),
        after: { order: orderBetween(inOrder<Ordered>(ladder.rungs).at(-1)?.order ?? null, null) },
      },
    ])
}
const takeOff = async (id: string): Promise<boolean> =>
  await definitions.edit([
    ...(ladder.default === id ? [{ path: path('default'), after: null }] : []),
    { path: path('rungs', id) },
  ])
</script>

<template>
  <section class="ladder" :aria-label="`Ladder ${ladder.title}`">
    <h2 :class="{ 'in-draft-title': definitions.isChanged('ladders', ladder.id) }">
      {{ ladder.title }}
    </h2>
    <p class="quiet">{{ ladder.description }}</p>
    <p class="followed">
      <b>{{ projects.length }}</b>
      {{ projects.length === 1 ? 'project follows' : 'projects follow' }} it:
      {{
        firstOf(
          projects.map((one) => living.projectTitle.get(one) ?? one),
          8,
        ) || 'none'
      }}<span class="quiet">
        · by rulebook {{ books.map((one) => one.title).join(', ') || 'none' }}</span
      >
    </p>
    <VueDraggable
      v-model="rungs"
      tag="ol"
      handle=".grip"
      :disabled="!definitions.mayDefineAll"
      :animation="0"
      :force-fallback="true"
      @end="dropped"
    >
      <li
        v-for="(rung, index) in rungs"
        :key="rung.id"
        tabindex="0"
        :class="{ chosen: rung.id === selected }"
        :aria-label="`${title(rung.id)}, rung ${index + 1} of ${rungs.length}${ladder.default === rung.id ? ', the default' : ''}`"
        @click="selected = rung.id"
        @focus="selected = rung.id"
        @keydown.alt.up.prevent="definitions.mayDefineAll && move(index, -1)"
        @keydown.alt.down.prevent="definitions.mayDefineAll && move(index, 1)"
      >
        <span v-if="definitions.mayDefineAll" class="grip" aria-hidden="true">⋮⋮</span
        ><span class="priority" :title="title(rung.id)"
          ><b>{{ index + 1 }}</b
          >{{ title(rung.id) }}</span
        ><span v-if="ladder.default === rung.id" class="quiet nowrap"> the default</span
        ><span class="grow" /><span class="quiet">{{ numberWords(items(rung.id)) }}</span>
        <template v-if="definitions.mayDefineAll"
          ><Button
            variant="text"
            severity="secondary"
            size="small"
            class="step"
            :disabled="index === 0"
            :aria-label="`${title(rung.id)} a rung up`"
            @click.stop="move(index, -1)"
          >
            <ArrowUp class="icon" /></Button
          ><Button
            variant="text"
            severity="secondary"
            size="small"
            class="step"
            :disabled="index === rungs.length - 1"
            :aria-label="`${title(rung.id)} a rung down`"
            @click.stop="move(index, 1)"
          >
            <ArrowDown class="icon" /></Button
          ><Button
            variant="text"
            severity="secondary"
            size="small"
            class="step"
            :aria-label="`Take ${title(rung.id)} off ${ladder.title}`"
            @click.stop="takeOff(rung.id)"
          >
            <X class="icon" /> </Button
        ></template>
      </li>
    </VueDraggable>
    <label v-if="definitions.mayDefineAll && off.length" class="quiet"
      >put on
      <Choice
        :model-value="''"
        class="inline"
        :label="`Put a priority on ${ladder.title}`"
        none="a priority …"
        :options="off.map((row) => ({ id: row.id, title: row.title }))"
        inline
        @update:model-value="putOn($event)"
    /></label>
    <label v-if="definitions.mayDefineAll" class="quiet">
      · default
      <Choice
        :model-value="ladder.default ?? ''"
        class="inline"
        :label="`Default of ${ladder.title}`"
        none="none"
        :options="rungs.map((rung) => ({ id: rung.id, title: title(rung.id) }))"
        inline
        @update:model-value="definitions.edit([{ path: path('default'), after: $event || null }])"
    /></label>
    <p class="seen-not" aria-live="polite">{{ told }}</p>
  </section>
</template>

<style scoped>
.ladder {
  max-width: 560px;
  border-top: 2px solid var(--ink);
  padding-top: 8px;
  font-size: 13.5px;
}
.followed {
  margin: 4px 0 8px;
  font-size: 13px;
}
ol {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  border-top: 1px solid var(--hair);
}
li {
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: var(--row);
  border-bottom: 1px solid var(--hair);
  padding: 0 4px;
}
li.chosen {
  background: var(--stem-wash);
}
li:focus-visible {
  outline-offset: -2px;
}
.priority {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.grip {
  cursor: grab;
  color: var(--quiet);
  user-select: none;
}
.step {
  min-width: 24px;
  min-height: 24px;
}
.step:disabled {
  color: var(--rule);
}
.in-draft-title {
  color: var(--leaf);
}
</style>
