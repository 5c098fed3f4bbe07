<script setup lang="ts">
import Panel from 'primevue/panel'
import { written } from '../../parts/eventTarget.ts'
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { inOrder, projectsOnLadder, type Edit } from '@bluestem/core/definitions'
import { counted, firstOf, numberWords } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import LadderColumn from './LadderColumn.vue'
import OwnLadder from './OwnLadder.vue'
import PriorityForm from './PriorityForm.vue'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const selected = useSelected()
const editing = ref<string | 'new'>()
const leaving = ref(false)
const unused = ref(false)
const ladders = computed(() =>
  inOrder(definitions.document.ladders).filter((ladder) => !ladder.retired),
)
const all = computed(() =>
  inOrder(definitions.document.priorities)
    .sort((a, b) => a.urgency - b.urgency)
    .filter((priority) => !unused.value || definitions.isUnused(priority.id, 180)),
)
const chosen = computed(() => {
  const id = selected.value ?? ''
  const known = definitions.document.priorities[id]
  return known ? { id, ...known } : all.value[0]
})
const on = (id: string): string =>
  ladders.value
    .filter((ladder) => ladder.rungs[id])
    .map((ladder) => ladder.title)
    .join(', ')
const sharing = computed(() => {
  const id = chosen.value?.id ?? ''
  const bearing = ladders.value.filter((ladder) => ladder.rungs[id])
  return [
    ...new Set(bearing.flatMap((ladder) => projectsOnLadder(definitions.document, ladder.id))),
  ]
})
const newLadder = async (): Promise<boolean> =>
  await definitions.edit([
    {
      path: ['ladders', definitions.newId('ladders')],
      after: {
        order: definitions.lastOrder(definitions.document.ladders),
        title: `Ladder ${ladders.value.length + 1}`,
        description: '',
        rungs: {},
        default: null,
      },
    } satisfies Edit,
  ])
const rename = async (id: string, part: 'title' | 'description', event: Event): Promise<boolean> =>
  await definitions.edit([{ path: ['ladders', id, part], after: written(event).trim() }])
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="A priority is defined once, with an *urgency* that means the same for everybody. It is a *rung* of any *ladder* that holds it."
      title="Priorities and ladders"
      make="New priority"
      :may="definitions.mayDefineAll"
      @make="editing = 'new'"
    >
      <template #acts
        ><Button
          severity="secondary"
          v-if="definitions.mayDefineAll"
          @click="newLadder"
          label="New ladder" /><Button
          severity="secondary"
          v-if="definitions.mayDefineAll"
          @click="leaving = true"
          label="A ladder of our own …"
      /></template>
      <span>drag a rung, or move it with Alt and the arrows</span>
    </ChapterHead>
    <div class="ladders">
      <div v-for="ladder in ladders" :key="ladder.id">
        <LadderColumn v-model:selected="selected" :ladder="ladder" />
        <Panel
          v-if="definitions.mayDefineAll"
          class="rename"
          toggleable
          collapsed
          :header="`rename or describe ${ladder.title}`"
        >
          <label class="field"
            ><span>Title</span
            ><InputText
              :model-value="ladder.title"
              maxlength="80"
              @change="rename(ladder.id, 'title', $event)"
              fluid /></label
          ><label class="field"
            ><span>What it is for</span
            ><InputText
              :model-value="ladder.description"
              maxlength="2000"
              @change="rename(ladder.id, 'description', $event)"
              fluid
          /></label>
        </Panel>
      </div>
    </div>
    <p v-if="!ladders.length" class="blank">
      Here the ladders would stand side by side. A priority is offered to nobody until it stands on
      one.
    </p>
    <h2>All priorities <UnusedChoice v-model="unused" :days="180" class="small" /></h2>
    <Ledger
      :rows="all"
      label="Priorities"
      :selected="chosen?.id"
      :mark="
        (row) => ({
          'in-draft': definitions.isChanged('priorities', row.id),
          retired: row.retired,
        })
      "
      @update:selected="selected = $event"
      @open="(row) => definitions.mayDefineAll && (editing = row.id)"
      ><Column header="Title" class="nowrap"
        ><template #body="{ data: row }"
          >{{ row.title
          }}<span v-if="definitions.isChanged('priorities', row.id)" class="draft-mark"
            >in the draft</span
          ></template
        ></Column
      >
      <Column header="Urgency" class="num"
        ><template #body="{ data: row }">{{ row.urgency }} of 5</template></Column
      >
      <Column header="When to use it"
        ><template #body="{ data: row }"
          ><span class="quiet">{{ row.description }}</span></template
        ></Column
      >
      <Column header="On ladder"
        ><template #body="{ data: row }"
          ><span :class="on(row.id) ? 'quiet' : 'warn'">{{ on(row.id) || 'none' }}</span></template
        ></Column
      >
      <Column header="Items" class="num"
        ><template #body="{ data: row }">{{
          numberWords(definitions.items(row.id))
        }}</template></Column
      >
      <Column header="Named by" class="num"
        ><template #body="{ data: row }"
          ><span class="quiet">{{ definitions.usage.named[row.id]?.length ?? 0 }}</span></template
        ></Column
      ></Ledger
    >
    <PriorityForm v-if="editing" :id="editing" @close="editing = undefined" />
    <OwnLadder v-if="leaving" @close="leaving = false" />
  </section>
  <EntryMargin
    v-if="chosen"
    :id="chosen.id"
    :title="chosen.title"
    :sub="`urgency ${chosen.urgency} of 5${chosen.retired ? ', retired' : ''}`"
    :description="chosen.description"
    :filter="{ op: '=', args: [{ property: 'priority' }, chosen.id] }"
    touches=""
  >
    <h3>Who shares it</h3>
    <p v-if="sharing.length">
      {{ counted(sharing.length, 'project') }}:
      {{
        firstOf(
          sharing.map((one) => living.projectTitle.get(one) ?? one),
          12,
        )
      }}
    </p>
    <p v-else class="quiet">
      Nobody is offered it until it stands on a ladder that a project follows.
    </p>
    <template #acts
      ><template v-if="definitions.mayDefineAll"
        ><Button severity="secondary" @click="editing = chosen.id" label="Change" /><Button
          severity="secondary"
          @click="definitions.retire('priorities', chosen.id, !chosen.retired)"
          :label="chosen.retired ? 'Bring back' : 'Retire'" /></template
    ></template>
  </EntryMargin>
</template>

<style scoped>
.ladders {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 20px 28px;
  margin-bottom: 22px;
}
h2 {
  margin: 0 0 4px;
}
.small {
  font: 400 13px var(--sans);
  margin-left: 8px;
}
.rename {
  font-size: 13px;
  margin-top: 4px;
}
</style>
