<script setup lang="ts">
import { entryOf } from '@bluestem/core/known'
import Choice from '../../parts/Choice.vue'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import {
  flowOf,
  holding,
  inOrder,
  projectsReached,
  resolve,
  restingRulebooks,
  typesOf,
} from '@bluestem/core/definitions'
import { requirementInWords } from '@bluestem/core/work'
import { call } from '../../api/http.ts'
import { itemsBehind } from '../../queries/itemsBehind.ts'
import Margin from '../../parts/Margin.vue'
import { counted, firstOf } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import FlowGrid, { type Cell } from './FlowGrid.vue'
import { useFlowEdits } from './flowEdits.ts'
import FlowKey from './FlowKey.vue'
import RequirementForm from './RequirementForm.vue'
import RulebookChoice from '../chapter/RulebookChoice.vue'
import StatusForm from './StatusForm.vue'
import StatusMargin from './StatusMargin.vue'
import FlowStatuses from './FlowStatuses.vue'
import MoveMargin from './MoveMargin.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const FlowDrawing = defineAsyncComponent(async () => await import('./FlowDrawing.vue'))
const definitions = useDefinitions()
const living = useLiving()
const route = useRoute()
const types = computed(() =>
  typesOf(definitions.document, definitions.rulebook).map((id) => ({
    id,
    ...entryOf(definitions.document.types, id),
  })),
)
const wantedType = ref(typeof route.query['type'] === 'string' ? route.query['type'] : '')
const mostUsed = computed(
  () => [...types.value].sort((a, b) => definitions.items(b.id) - definitions.items(a.id))[0],
)
const type = computed({
  get: () =>
    types.value.find((type) => type.id === wantedType.value)?.id ?? mostUsed.value?.id ?? '',
  set: (id: string) => {
    wantedType.value = id
  },
})
const days = ref(90)
const made = ref<Readonly<Record<string, number>>>({})
const cell = ref<Cell>()
const status = useSelected()
const editing = ref<string | 'new'>()
const requiring = ref<string>()
watch(
  [type, days, () => definitions.edition?.number],
  async () => {
    if (type.value)
      made.value = (
        await call('GET /definitions/moves/{type}', {
          params: { type: type.value },
          query: { days: String(days.value) },
        })
      ).moves
  },
  { immediate: true },
)

const flow = computed(() => flowOf(definitions.document, definitions.rulebook, type.value))
const before = computed(() => flowOf(definitions.published, definitions.rulebook, type.value))
const may = computed(() => definitions.mayChange(definitions.rulebook))
const spare = computed(() =>
  inOrder(definitions.document.statuses).filter(
    (status) => !status.retired && !flow.value.statuses.includes(status.id),
  ),
)
const title = (id: string): string => definitions.document.statuses[id]?.title ?? id
/** the projects that take this rulebook's word on the flow */
const followers = computed(() =>
  projectsReached(definitions.document, definitions.rulebook, `type:${type.value}`),
)
const standing = (id: string): number =>
  holding(definitions.usage, 'status', id, { type: type.value, projects: followers.value })
/** rulebooks in which a change of this one holds too */
const extending = computed(
  () => restingRulebooks(definitions.document, definitions.rulebook).length - 1,
)
const parent = computed(() => definitions.document.rulebooks[definitions.rulebook]?.extends)
const changedHere = computed(
  () =>
    [...resolve(definitions.document, definitions.rulebook).values()].filter(
      (entry) =>
        entry.origin !== 'inherited' &&
        entry.key.split(':')[1] === type.value &&
        /^(status|move|requirement|type):/.test(entry.key),
    ).length,
)
const asks = (id: string): string => {
  const requirement = flow.value.requirements.get(id)
  return requirement ? requirementInWords(definitions.document, requirement) : ''
}
const boardsWith = (id: string): string =>
  definitions.boards
    .filter((board) => board.columns.includes(id))
    .map((board) => board.title)
    .join(', ')
const itemsIn = (...ids: string[]): string =>
  itemsBehind({
    op: 'and',
    args: [
      { op: '=', args: [{ property: 'type' }, type.value] },
      { op: 'in', args: [{ property: 'status' }, ids] },
      { op: 'in', args: [{ property: 'project' }, followers.value] },
    ],
  })

const { toggle, use, place, start, leaveOut } = useFlowEdits(() => ({
  type: type.value,
  flow: flow.value,
}))
async function toggleCell({ from, to }: Cell): Promise<void> {
  selectMove({ from, to })
  if (may.value) await toggle(from, to)
}
function selectMove(move: Cell): void {
  cell.value = move
  status.value = undefined
}

function selectStatus(id: string): void {
  status.value = id
  cell.value = undefined
}
const spans = [
  { id: 30, title: '30 days' },
  { id: 90, title: '90 days' },
  { id: 365, title: 'year' },
]
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="The statuses an item passes through, each in one *phase*, some a *queue*; and the moves between them."
      :title="`Flow of ${definitions.document.types[type]?.title ?? 'nothing yet'}`"
      make="New status"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
    >
      <Choice
        v-model="type"
        class="inline"
        label="Type"
        domain="type"
        :options="
          types.map((row) => ({ id: row.id, title: row.title, mark: `${row.monogram}${row.tier}` }))
        "
        inline
      />
      <span>in</span><RulebookChoice bare /> <span>moves of the last</span
      ><Choice v-model="days" label="Span of the figures" :options="spans" inline />
      <Choice
        v-if="may && spare.length && type"
        :model-value="''"
        class="inline"
        label="Take a status into this flow"
        none="take in a status …"
        domain="status"
        :options="spare.map((row) => ({ id: row.id, title: row.title, mark: row.phase }))"
        inline
        @update:model-value="use($event)"
      />
    </ChapterHead>
    <p class="meta">
      Followed by
      {{
        firstOf(
          followers.map((one) => living.projectTitle.get(one) ?? one),
          6,
        ) || 'no project'
      }}; starts in {{ flow.start ? title(flow.start) : 'no status yet'
      }}<template v-if="parent"
        >;
        {{
          changedHere
            ? `${counted(changedHere, 'entry', 'entries')} of its own beside`
            : 'unchanged from'
        }}
        {{ definitions.document.rulebooks[parent]?.title }}</template
      ><template v-if="extending > 0"
        >;
        <span class="warn"
          >{{ counted(extending, 'rulebook') }} {{ extending === 1 ? 'extends' : 'extend' }} this
          one, and what is changed here holds there too</span
        ></template
      >.
    </p>
    <FlowGrid
      v-if="flow.statuses.length"
      :flow="flow"
      :before="before"
      :statuses="definitions.document.statuses"
      :made="made"
      :may-edit="may"
      :selected="cell"
      :asks="asks"
      @toggle="toggleCell"
      @look="selectMove"
      @status="selectStatus"
      @requirement="requiring = $event"
      @place="place"
    />
    <p v-else class="blank">
      {{
        types.length
          ? `“${types.find((one) => one.id === type)?.title}” has no status yet. Make the first one: it is where items start.`
          : 'This rulebook offers no type yet, so there is no flow to draw.'
      }}
    </p>
    <FlowKey />
    <FlowDrawing
      v-if="flow.statuses.length"
      :flow="flow"
      :before="before"
      :statuses="definitions.document.statuses"
    />
    <FlowStatuses
      :selected="status"
      :boards-with="boardsWith"
      @select="selectStatus"
      @open="(id) => definitions.mayDefineAll && (editing = id)"
    />
    <StatusForm v-if="editing" :id="editing" :type="type" @close="editing = undefined" />
    <RequirementForm
      v-if="requiring"
      :type="type"
      :status="requiring"
      @close="requiring = undefined"
    />
  </section>
  <StatusMargin
    v-if="status && definitions.document.statuses[status]"
    :status="status"
    :type="type"
    :flow="flow"
    :asks="asks(status)"
    :standing="standing(status)"
    :items="itemsIn(status)"
    :boards="boardsWith(status)"
    :may="may"
    @edit="editing = status"
    @require="requiring = status"
    @start="start(status)"
    @leave-out="leaveOut(status)"
  />
  <Margin v-else>
    <MoveMargin
      v-if="cell"
      :cell="cell"
      :type="type"
      :flow="flow"
      :before="before"
      :standing="standing(cell.from)"
      :items="itemsIn(cell.from)"
      :made="made[`${cell.from}:${cell.to}`] ?? 0"
      :days="days"
      :asks="asks(cell.to)"
    />
    <p v-else class="quiet">
      A cell of the grid says whether an item may go from the status of its row to that of its
      column, and how often that was done.
      {{
        may
          ? 'Press one to allow or forbid the move in a draft; drag a column, or move it by Alt and the arrows, to another place.'
          : ''
      }}
    </p>
  </Margin>
</template>
