<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import type { OffersAnswer } from '@bluestem/core/projects'
import type { SavedQuery } from '@bluestem/core/queries'
import ColumnOrder from '../parts/ColumnOrder.vue'
import Unfolding from '../parts/Unfolding.vue'
import Choice from '../parts/Choice.vue'
import Checkbox from 'primevue/checkbox'
import { computed } from 'vue'
import type { ViewContent } from '@bluestem/core/views'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import ColumnChoice from '../parts/ColumnChoice.vue'

/** How a view is arranged: kind, query, columns or board, order, groups. */
const view = defineModel<ViewContent>({ required: true })
const { queries } = defineProps<{ queries: readonly SavedQuery[] }>()
const vocabulary = useVocabulary()
const boards = computed(() => vocabulary.groupable.filter((entry) => entry.type.kind === 'choice'))

function setKind(kind: 'list' | 'board'): void {
  if (kind === 'list') view.value = { ...view.value, kind, board: null }
  else void setBy('status')
}

/** The flows that the answers of the query are in: of their types, in each of their projects. */
async function flowsOf(
  projects: readonly string[],
  types: readonly string[],
): Promise<OffersAnswer['types']> {
  const codes =
    vocabulary.vocabulary?.projects
      .filter((project) => projects.includes(project.id))
      .map((project) => project.code) ?? []
  const offers = await Promise.all(
    codes
      .slice(0, 20)
      .map(async (code) => await call('GET /projects/{code}/offers', { params: { code } })),
  )
  return offers.flatMap((offer) => offer.types.filter((type) => types.includes(type.id)))
}

/** The values a board by a property begins with: for statuses those of the flows its answers follow, else those its answers hold. */
async function beginning(by: string): Promise<string[]> {
  const standing = async (group: string): Promise<string[]> => {
    const arranged = await call('POST /views/arrange', {
      body: { view: { ...view.value, kind: 'list', group, board: null } },
    })
    const groups = 'groups' in arranged ? (arranged.groups ?? []) : []
    return groups.flatMap((group) => group.value ?? [])
  }
  const values = vocabulary.choices(by).map((choice) => choice.id)
  const [held, types] = await Promise.all([
    standing(by),
    by === 'status' ? standing('type') : Promise.resolve<string[]>([]),
  ])
  const flows = by === 'status' ? await flowsOf(await standing('project'), types) : []
  const wanted = new Set([
    ...held,
    ...flows.flatMap((type) =>
      type.statuses.filter((status) => status.mark !== 'dropped').map((status) => status.id),
    ),
  ])
  return values.filter((value) => wanted.size === 0 || wanted.has(value)).slice(0, 8)
}

async function setBy(by: string): Promise<void> {
  const columns = await beginning(by)
  view.value = {
    ...view.value,
    kind: 'board',
    group: null,
    board: {
      cards: ['priority', 'assignee'],
      finishedWithin: 30,
      ...view.value.board,
      by,
      columns,
    },
  }
}

const boardOf = (): NonNullable<ViewContent['board']> => certain(view.value.board, 'board')

function toggle(value: string | null, on: boolean): void {
  const board = boardOf()
  const all: (string | null)[] = [...vocabulary.choices(board.by).map((choice) => choice.id), null]
  view.value = {
    ...view.value,
    board: {
      ...board,
      columns: all.filter((entry) => (entry === value ? on : board.columns.includes(entry))),
    },
  }
}

function setColumns(columns: readonly (string | null)[]): void {
  view.value = { ...view.value, board: { ...boardOf(), columns: [...columns] } }
}

const orderBy = computed({
  get: () => view.value.order[0]?.by ?? '',
  set: (by) => {
    view.value = {
      ...view.value,
      order: by
        ? [{ by, direction: view.value.order[0]?.direction ?? 'up' }, ...view.value.order.slice(1)]
        : [],
    }
  },
})
const titleOf = (value: string | null): string =>
  value === null
    ? `no ${vocabulary.title(boardOf().by).toLowerCase()}`
    : (vocabulary.choices(boardOf().by).find((choice) => choice.id === value)?.title ?? value)
</script>

<template>
  <div class="arrange" role="group" aria-label="Arrangement">
    <label
      ><span>The answers of</span
      ><Choice
        v-model="view.query"
        label="The answers of"
        :options="queries.map((query) => ({ id: query.id, title: query.title }))"
        inline
    /></label>
    <label
      ><span>As a</span
      ><Choice
        :model-value="view.kind"
        label="As a"
        :options="[
          { id: 'list', title: 'list' },
          { id: 'board', title: 'board' },
        ]"
        inline
        @update:model-value="setKind($event as 'list')"
    /></label>
    <label
      ><span>Ordered by</span
      ><Choice
        v-model="orderBy"
        label="Ordered by"
        none="nothing"
        :options="
          (vocabulary.vocabulary?.properties ?? []).map((property) => ({
            id: property.handle,
            title: property.title,
          }))
        "
        inline
    /></label>
    <label v-if="view.order[0]"
      ><span>Direction</span
      ><Choice
        v-model="view.order[0].direction"
        label="Direction"
        :options="[
          { id: 'up', title: 'upwards' },
          { id: 'down', title: 'downwards' },
        ]"
        inline
    /></label>
    <template v-if="view.board">
      <label
        ><span>Columns by</span
        ><Choice
          :model-value="view.board.by"
          label="Columns by"
          :options="boards.map((property) => ({ id: property.handle, title: property.title }))"
          inline
          @update:model-value="setBy($event)"
      /></label>
      <label
        ><span>Finished items</span
        ><Choice
          :model-value="view.board.finishedWithin ?? ''"
          label="Finished items"
          none="always"
          :options="[7, 14, 30, 90].map((days) => ({ id: days, title: `for ${days} days` }))"
          inline
          @update:model-value="view.board.finishedWithin = $event || null"
      /></label>
      <ColumnChoice v-model="view.board.cards" title="On cards" />
      <Unfolding :title="`Columns ${view.board.columns.length}`">
        <ColumnOrder
          :model-value="view.board.columns"
          :title-of="titleOf"
          @update:model-value="setColumns"
        />
        <label
          v-for="choice in [...vocabulary.choices(view.board.by).map((row) => row.id), null]"
          :key="String(choice)"
          class="check"
          ><Checkbox
            :model-value="view.board.columns.includes(choice)"
            binary
            @update:model-value="toggle(choice, $event)"
          />
          {{ titleOf(choice) }}</label
        >
      </Unfolding>
    </template>
    <template v-else>
      <label
        ><span>Grouped by</span
        ><Choice
          :model-value="view.group ?? ''"
          label="Grouped by"
          none="nothing"
          :options="
            vocabulary.groupable.map((property) => ({ id: property.handle, title: property.title }))
          "
          inline
          @update:model-value="view.group = $event || null"
      /></label>
      <ColumnChoice v-model="view.columns" />
    </template>
  </div>
</template>

<style scoped>
.arrange {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: flex-end;
  background: var(--wash);
  border: 1px solid var(--hair);
  padding: 10px 14px;
  margin-bottom: 10px;
}
label > span {
  display: block;
  font-size: 12px;
  color: var(--quiet);
}
.check {
  display: block;
}
</style>
