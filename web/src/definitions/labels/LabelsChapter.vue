<script setup lang="ts">
import type { LabelAnswer } from '@bluestem/core/labels'
import Tab from 'primevue/tab'
import TabList from 'primevue/tablist'
import Tabs from 'primevue/tabs'
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import { computed, ref, shallowRef, watch } from 'vue'
import { nearGroups, nearness } from '@bluestem/core/consistency'
import { inOrder } from '@bluestem/core/definitions'
import { useSession } from '../../session/session.store.ts'
import { useNotes } from '../../parts/notes.store.ts'
import { counted } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import FamiliesTable from './FamiliesTable.vue'
import FamilyForm from './FamilyForm.vue'
import FamilyMargin from './FamilyMargin.vue'
import LabelForm from './LabelForm.vue'
import LabelMargin from './LabelMargin.vue'
import LabelsTable from './LabelsTable.vue'
import LiftLabel from './LiftLabel.vue'
import MergeInto from '../chapter/MergeInto.vue'
import MergesDone from '../chapter/MergesDone.vue'
import RulebookChoice from '../chapter/RulebookChoice.vue'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const notes = useNotes()
const shows = ref<'labels' | 'families'>('labels')
const selected = useSelected()
const chosenFamily = ref<string>()
const editing = ref<LabelAnswer | 'new'>()
const editingFamily = ref<string>()
const [merging, lifting] = [ref(false), ref<LabelAnswer>()]
const ticked = ref<readonly string[]>([])
const [family, project, wanted] = [ref(''), ref(''), ref('')]
const [unused, near, retired] = [ref(false), ref(false), ref(false)]

const families = computed(() => inOrder(definitions.document.families))
// Comparing thousands of titles takes a while, so it is done once the list stands.
const groups = shallowRef<readonly (readonly LabelAnswer[])[]>([])
watch(
  () => living.labels,
  (labels) =>
    void window.setTimeout(() => {
      groups.value = nearGroups(labels.filter((label) => !label.retired))
    }),
  { immediate: true },
)
const all = computed((): readonly LabelAnswer[] =>
  near.value ? groups.value.flat() : living.labels,
)
const shown = computed(() =>
  all.value.filter(
    (label) =>
      (retired.value || !label.retired) &&
      (!family.value ||
        (family.value === 'none' ? label.family === null : label.family === family.value)) &&
      (!project.value ||
        (project.value === 'none' ? label.project === null : label.project === project.value)) &&
      (!unused.value || definitions.isUnused(label.id, 180)) &&
      label.title.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const chosen = computed(
  () => living.labels.find((label) => label.id === selected.value) ?? shown.value[0],
)
const chosenOne = computed(
  () => families.value.find((family) => family.id === chosenFamily.value) ?? families.value[0],
)
const together = computed(() =>
  ticked.value.flatMap((id) => living.labels.find((label) => label.id === id) ?? []),
)
/** near duplicates, the surest first */
const twins = computed(() => {
  const { value: selectedLabel } = chosen
  const near = selectedLabel
    ? living.labels
        .filter(
          (label) => label.id !== selectedLabel.id && !label.retired && !selectedLabel.retired,
        )
        .map((label) => ({ label, nearness: nearness(selectedLabel.title, label.title) }))
    : []
  return ['same', 'maybe']
    .flatMap((word) => near.filter((each) => each.nearness === word).map(({ label }) => label))
    .slice(0, 12)
})

const change = async (label: LabelAnswer, given: object): Promise<unknown> =>
  await living.change('PATCH /labels/{id}', {
    params: { id: label.id },
    body: given,
    match: label.version,
  })
async function moveTicked(to: string): Promise<void> {
  if (!to) return
  let moved = 0
  for (const label of together.value)
    if (await change(label, { family: to === 'none' ? null : to })) moved += 1
  notes.show('well', `${counted(moved, 'label')} moved.`)
  ticked.value = []
}
async function merged(): Promise<void> {
  merging.value = false
  ticked.value = []
  await definitions.load()
}
const reset = (): void => {
  family.value = ''
  project.value = ''
  wanted.value = ''
  unused.value = false
  near.value = false
}

function mergeWithTwins(id: string): void {
  ticked.value = [id, ...twins.value.map((twin) => twin.id)]
  merging.value = true
}
</script>

<template>
  <section class="sheet fixed">
    <ChapterHead
      living
      about="Words that mark items across projects, gathered in families."
      title="Labels"
      :make="shows === 'labels' ? 'New label' : 'New family'"
      :may="shows === 'labels' ? session.mayEdit : definitions.mayDefineAll"
      @make="shows === 'labels' ? (editing = 'new') : (editingFamily = 'new')"
    >
      <template v-if="shows === 'labels'">
        <span>{{ counted(shown.length, 'label') }} of family</span
        ><Choice
          v-model="family"
          class="inline"
          label="Family"
          none="any or none"
          :options="[
            { id: 'none', title: 'none' },
            ...families.map((row) => ({ id: row.id, title: row.title })),
          ]"
          inline
        />
        <span>for</span
        ><Choice
          v-model="project"
          class="inline"
          label="For"
          none="anyone"
          :options="[
            { id: 'none', title: 'everyone' },
            ...living.projects.map((row) => ({ id: row.id, title: row.title })),
          ]"
          inline
        />
        <InputText
          v-model="wanted"
          class="narrow"
          type="search"
          aria-label="Narrow the list"
          placeholder="Narrow the list"
          size="small"
        />
        <Button
          variant="link"
          :aria-pressed="near"
          @click="near = !near"
          :label="near ? 'Show all' : `Near duplicates: ${counted(groups.length, 'group')}`"
        />
        <UnusedChoice v-model="unused" :days="180" /><label
          ><Checkbox v-model="retired" binary /> retired too</label
        >
      </template>
      <template v-else><span>as in rulebook</span><RulebookChoice /></template>
    </ChapterHead>
    <Tabs v-model:value="shows">
      <TabList>
        <Tab value="labels">Labels</Tab>
        <Tab value="families">Families</Tab>
      </TabList>
    </Tabs>
    <template v-if="shows === 'labels'">
      <MergesDone kind="labels" />
      <div v-if="ticked.length" class="row ticked" role="status">
        <b>{{ counted(ticked.length, 'label') }} ticked</b
        ><Button
          severity="secondary"
          :disabled="ticked.length < 2"
          @click="merging = true"
          label="Make them one"
        /><label
          >move to family
          <Choice
            :model-value="''"
            class="inline"
            label="Move to family"
            none="choose …"
            :options="[
              { id: 'none', title: 'none' },
              ...families.map((row) => ({ id: row.id, title: row.title })),
            ]"
            inline
            @update:model-value="moveTicked($event)" /></label
        ><Button variant="link" @click="ticked = []" label="untick all" />
      </div>
      <LabelsTable
        v-if="shown.length"
        v-model:ticked="ticked"
        :labels="shown"
        :selected="chosen?.id"
        @select="selected = $event"
        @open="living.keeps($event.project) && (editing = $event)"
      />
      <p v-else-if="living.labels.length" class="blank">
        {{ near && !groups.length ? 'No near duplicates.' : 'No label is like that.' }}
        <Button variant="link" @click="reset" label="Show all" />
      </p>
      <p v-else class="blank">
        Here the labels would stand that anyone may put on an item.
        <Button
          variant="link"
          v-if="session.mayEdit"
          @click="editing = 'new'"
          label="Make the first one."
        />
      </p>
    </template>
    <div v-else class="whole">
      <FamiliesTable
        :selected="chosenOne?.id"
        @select="chosenFamily = $event"
        @open="editingFamily = $event"
      />
    </div>
    <LabelForm
      v-if="editing"
      v-bind="editing === 'new' ? {} : { label: editing }"
      @close="editing = undefined"
      @kept="selected = $event"
    />
    <FamilyForm v-if="editingFamily" :id="editingFamily" @close="editingFamily = undefined" />
    <MergeInto
      v-if="merging"
      kind="labels"
      :all="together"
      @close="merging = false"
      @merged="merged"
    />
    <LiftLabel
      v-if="lifting"
      :label="lifting"
      @close="lifting = undefined"
      @lifted="definitions.load()"
    />
  </section>
  <LabelMargin
    v-if="shows === 'labels' && chosen"
    :label="chosen"
    :twins="twins"
    @select="selected = $event"
    @merge="mergeWithTwins(chosen.id)"
    @edit="editing = chosen"
    @lift="lifting = chosen"
    @retire="change(chosen, { retired: !chosen.retired })"
  />
  <FamilyMargin
    v-else-if="shows === 'families' && chosenOne"
    :family="chosenOne"
    @edit="editingFamily = chosenOne.id"
  />
</template>

<style scoped>
.ticked {
  background: var(--wash);
  padding: 5px 10px;
  gap: 14px;
}
.whole {
  overflow: auto;
  flex: 1;
}
</style>
