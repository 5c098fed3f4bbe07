<script setup lang="ts">
import { firstIn } from '@bluestem/core/known'
import type { ComponentAnswer } from '@bluestem/core/components'
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Checkbox from 'primevue/checkbox'
import Button from 'primevue/button'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref } from 'vue'
import Sheet from '../../parts/Sheet.vue'
import { counted, numberWords } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import LastUsed from '../chapter/LastUsed.vue'
import MergeInto from '../chapter/MergeInto.vue'
import MergesDone from '../chapter/MergesDone.vue'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const selected = useSelected()
const editing = ref<ComponentAnswer | 'new'>()
const [project, wanted] = [ref(''), ref('')]
const [unused, retired, merging, busy] = [ref(false), ref(false), ref(false), ref(false)]
const ticked = ref<string[]>([])
const form = reactive({ title: '', project: '', keeper: '', description: '' })
const shown = computed(() =>
  living.components.filter(
    (component) =>
      (retired.value || !component.retired) &&
      (!project.value || component.project === project.value) &&
      (!unused.value || definitions.isUnused(component.id, 180)) &&
      `${component.title} ${component.keeper?.title ?? ''}`
        .toLowerCase()
        .includes(wanted.value.toLowerCase()),
  ),
)
const chosen = computed(
  () => living.components.find((component) => component.id === selected.value) ?? shown.value[0],
)
const together = computed(() =>
  living.components.filter((component) => ticked.value.includes(component.id)),
)
const mayMerge = computed(
  () =>
    together.value.length > 1 &&
    together.value.every((entry) => entry.project === firstIn(together.value).project),
)
const title = (id: string): string => living.projectTitle.get(id) ?? id

function open(candidate: ComponentAnswer | 'new'): void {
  Object.assign(
    form,
    candidate === 'new'
      ? {
          title: '',
          project:
            living.keptProjects.find((entry) => entry.id === project.value)?.id ??
            living.keptProjects[0]?.id ??
            '',
          keeper: '',
          description: '',
        }
      : {
          title: candidate.title,
          project: candidate.project,
          keeper: candidate.keeper?.id ?? '',
          description: candidate.description,
        },
  )
  editing.value = candidate
}
async function keep(): Promise<void> {
  busy.value = true
  const given = { title: form.title, keeper: form.keeper || null, description: form.description }
  const edited = editing.value
  if (edited === undefined) return
  const made =
    edited === 'new'
      ? await living.change('POST /components', {
          body: {
            ...given,
            project: form.project,
          },
        })
      : await living.change('PATCH /components/{id}', {
          params: { id: edited.id },
          body: given,
          match: edited.version,
        })
  busy.value = false
  if (!made) return
  selected.value = made.id
  editing.value = undefined
}
async function merged(): Promise<void> {
  merging.value = false
  ticked.value = []
  await definitions.load()
}
</script>

<template>
  <section class="sheet">
    <ChapterHead
      living
      about="Parts of what a project looks after; its *keeper* is given its items."
      title="Components"
      make="New component"
      :may="living.keptProjects.length > 0"
      @make="open('new')"
    >
      <span>{{ counted(shown.length, 'component') }} of</span
      ><Choice
        v-model="project"
        class="inline"
        label="Project"
        none="any project"
        :options="living.projects.map((row) => ({ id: row.id, title: row.title }))"
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
      <UnusedChoice v-model="unused" :days="180" /><label
        ><Checkbox v-model="retired" binary /> retired too</label
      >
    </ChapterHead>
    <MergesDone kind="components" />
    <div v-if="ticked.length" class="row ticked" role="status">
      <b>{{ counted(ticked.length, 'component') }} ticked</b
      ><Button
        severity="secondary"
        :disabled="!mayMerge"
        :title="mayMerge ? '' : 'Only components of one project can be made one'"
        @click="merging = true"
        label="Make them one"
      /><Button variant="link" @click="ticked = []" label="untick all" />
    </div>
    <Ledger
      v-if="shown.length"
      :rows="shown"
      label="Components"
      :selected="chosen?.id"
      :mark="(row) => ({ retired: row.retired })"
      @update:selected="selected = $event"
      @open="(row) => living.keeps(row.project) && open(row)"
      ><Column v-if="living.keptProjects.length"
        ><template #header><span class="seen-not">Tick</span></template
        ><template #body="{ data: entry }"
          ><span class="tick"
            ><Checkbox
              v-model="ticked"
              :value="entry.id"
              :aria-label="`Tick ${entry.title}`"
              @click.stop /></span></template
      ></Column>
      <Column header="Component" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: entry }">{{ entry.title }}</template></Column
      >
      <Column
        header="Project"
        sortable
        :sort-field="(row: { id: string; project: string }) => title(row.project)"
        class="nowrap"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ title(entry.project) }}</span></template
        ></Column
      >
      <Column header="Keeper" sortable sort-field="keeper.title"
        ><template #body="{ data: entry }"
          ><span :class="entry.keeper ? 'nowrap' : 'quiet nowrap'">{{
            entry.keeper?.title ?? 'nobody'
          }}</span></template
        ></Column
      >
      <Column header="What it is"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ entry.description }}</span></template
        ></Column
      >
      <Column
        header="Items"
        sortable
        :sort-field="(row: { id: string; project: string }) => String(definitions.items(row.id))"
        class="num"
        ><template #body="{ data: entry }">{{
          numberWords(definitions.items(entry.id))
        }}</template></Column
      >
      <Column
        header="Last used"
        sortable
        :sort-field="(row: { id: string; project: string }) => definitions.usage.last[row.id] ?? ''"
        class="num"
        ><template #body="{ data: entry }"><LastUsed :id="entry.id" /></template></Column
    ></Ledger>
    <p v-else class="blank">
      {{
        living.components.length
          ? 'No component is like that.'
          : 'Here the parts would stand that each project looks after, such as its vessels or piers.'
      }}
    </p>
    <Sheet
      v-if="editing"
      :title="editing === 'new' ? 'New component' : `Change ${editing.title}`"
      @close="editing = undefined"
    >
      <form @submit.prevent="keep">
        <label class="field"
          ><span>Title</span
          ><InputText v-model="form.title" required maxlength="80" autofocus fluid
        /></label>
        <label v-if="editing === 'new'" class="field"
          ><span>Project</span
          ><Choice
            v-model="form.project"
            label="Project"
            :options="living.keptProjects.map((row) => ({ id: row.id, title: row.title }))"
        /></label>
        <label class="field"
          ><span>Keeper, to whom new items of it are assigned</span
          ><Choice
            v-model="form.keeper"
            label="Keeper, to whom new items of it are assigned"
            none="nobody"
            :options="living.people.map((row) => ({ id: row.id, title: row.name }))"
        /></label>
        <label class="field"
          ><span>What it is</span
          ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
        </label>
        <div class="acts">
          <Button
            type="submit"
            :disabled="busy"
            :label="editing === 'new' ? 'Make the component' : 'Keep'"
          /><Button severity="secondary" @click="editing = undefined" label="Not now" />
        </div>
      </form>
    </Sheet>
    <MergeInto
      v-if="merging"
      kind="components"
      :all="together"
      @close="merging = false"
      @merged="merged"
    />
  </section>
  <EntryMargin
    v-if="chosen"
    :id="chosen.id"
    :title="chosen.title"
    :sub="`of ${title(chosen.project)}${chosen.retired ? ', retired' : ''}`"
    :description="chosen.description"
    :filter="{ op: 'a_contains', args: [{ property: 'components' }, [chosen.id]] }"
    touches=""
    living
  >
    <h3>What it is</h3>
    <div class="line">
      <span>keeper</span><span>{{ chosen.keeper?.title ?? 'nobody' }}</span>
    </div>
    <template #acts
      ><template v-if="living.keeps(chosen.project)"
        ><Button severity="secondary" @click="open(chosen)" label="Change" /><Button
          severity="secondary"
          @click="
            living.change('PATCH /components/{id}', {
              params: { id: chosen.id },
              body: { retired: !chosen.retired },
              match: chosen.version,
            })
          "
          :label="chosen.retired ? 'Bring back' : 'Retire'" /></template
    ></template>
  </EntryMargin>
</template>

<style scoped>
.ticked {
  background: var(--wash);
  padding: 5px 10px;
  gap: 14px;
  margin-bottom: 6px;
}
.tick {
  width: 26px;
}
</style>
