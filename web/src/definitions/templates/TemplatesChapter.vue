<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import Choice from '../../parts/Choice.vue'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import { computed, ref } from 'vue'
import { chainOf } from '@bluestem/core/definitions'
import type { TemplateContent, TemplateAnswer } from '@bluestem/core/templates'
import { useSession } from '../../session/session.store.ts'
import Margin from '../../parts/Margin.vue'
import TypeMark from '../../parts/TypeMark.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { agoWords, counted, dayWords } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import TemplateForm from './TemplateForm.vue'
import UnusedChoice from '../chapter/UnusedChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const notes = useNotes()
const selected = useSelected()
const editing = ref<TemplateAnswer | 'new' | { from: TemplateContent }>()
const [wanted, owner] = [ref(''), ref('')]
const [unused, stale, retired] = [ref(false), ref(false), ref(false)]

const isUnused = (entry: TemplateAnswer): boolean =>
  entry.usedAt === null || session.now.getTime() - Date.parse(entry.usedAt) > 180 * 86_400_000
const ownerWords = (entry: TemplateAnswer): string =>
  entry.project
    ? (living.projectTitle.get(entry.project) ?? entry.project)
    : (definitions.published.rulebooks[entry.rulebook ?? '']?.title ?? '')
const owners = computed(() => [...new Set(living.templates.map(ownerWords))].sort())
const shown = computed(() =>
  living.templates.filter(
    (template) =>
      (retired.value || !template.retired) &&
      (!stale.value || template.stale.length > 0) &&
      (!unused.value || isUnused(template)) &&
      (!owner.value || ownerWords(template) === owner.value) &&
      template.title.toLowerCase().includes(wanted.value.toLowerCase()),
  ),
)
const staleOnes = computed(
  () =>
    living.templates.filter((template) => !template.retired && template.stale.length > 0).length,
)
const chosen = computed(
  () => living.templates.find((template) => template.id === selected.value) ?? shown.value[0],
)
const type = (entry: TemplateAnswer) => definitions.published.types[entry.content.item.type]
/** the projects whose rulebook the template can be used in */
const usable = computed(() => {
  const { value: template } = chosen
  return template
    ? living.projects.filter((project) =>
        template.project
          ? template.project === project.id
          : chainOf(
              definitions.published,
              definitions.published.projects[project.id] ?? '',
            ).includes(template.rulebook ?? ''),
      )
    : []
})
const link = (code: string): string => `/work/${code}?make=${chosen.value?.id}`

const mayMake = computed(
  () =>
    living.keptProjects.length > 0 ||
    definitions.rulebooks.some((rulebook) => definitions.mayChange(rulebook.id)),
)

async function mend(entry: TemplateAnswer): Promise<void> {
  if (
    await living.change('POST /templates/{id}/mend', {
      params: { id: entry.id },
      match: entry.version,
    })
  )
    notes.show('well', `“${entry.title}” fits again.`)
}
async function copy(entry: TemplateAnswer): Promise<void> {
  const made = await living.change('POST /templates', {
    body: {
      title: `${entry.title}, a copy`,
      description: entry.description,
      content: entry.content,
      ...(entry.project ? { project: entry.project } : {}),
      ...(entry.rulebook ? { rulebook: entry.rulebook } : {}),
    },
  })
  if (made) selected.value = made.id
}
async function copyLink(code: string): Promise<void> {
  await navigator.clipboard.writeText(`${location.origin}${link(code)}`)
  notes.show('well', 'The link is copied: whoever opens it finds the form filled.')
}
</script>

<template>
  <section class="sheet">
    <ChapterHead
      living
      about="Prefilled items, some with what stands below them."
      title="Templates"
      make="New template"
      :may="mayMake"
      @make="editing = 'new'"
    >
      <span>kept by</span
      ><Choice
        v-model="owner"
        class="inline"
        label="Kept by"
        none="anyone"
        :options="owners.map((row) => ({ id: row, title: row }))"
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
        :aria-pressed="stale"
        @click="stale = !stale"
        :label="stale ? 'show all again' : `${counted(staleOnes, 'template')} with something stale`"
      /><UnusedChoice v-model="unused" :days="180" /><label
        ><Checkbox v-model="retired" binary /> retired too</label
      >
    </ChapterHead>
    <Ledger
      v-if="shown.length"
      :rows="shown"
      label="Templates"
      :selected="chosen?.id"
      :mark="(row) => ({ retired: row.retired })"
      @update:selected="selected = $event"
      @open="(row) => row.mayEdit && (editing = row)"
      ><Column header="Type"
        ><template #body="{ data: entry }"
          ><TypeMark
            v-if="type(entry)"
            :mark="`${type(entry)?.monogram}${type(entry)?.tier}`"
            :title="type(entry)?.title ?? ''" /></template
      ></Column>
      <Column header="Template" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: entry }">{{ entry.title }}</template></Column
      >
      <Column header="When to use it"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ entry.description }}</span></template
        ></Column
      >
      <Column header="Kept by" class="nowrap"
        ><template #body="{ data: entry }"
          ><span class="quiet">{{ ownerWords(entry) }}</span></template
        ></Column
      >
      <Column header="Below it" class="num"
        ><template #body="{ data: entry }">{{
          entry.content.children.length || '–'
        }}</template></Column
      >
      <Column header="State"
        ><template #body="{ data: entry }"
          ><span :class="entry.stale.length ? 'warn' : 'quiet'">{{
            entry.stale.length ? entry.stale[0]?.message : entry.retired ? 'retired' : 'fits'
          }}</span></template
        ></Column
      >
      <Column header="Last used" sortable sort-field="usedAt" class="num"
        ><template #body="{ data: entry }"
          ><span :class="['num', 'nowrap', isUnused(entry) ? 'warn' : 'quiet']">{{
            entry.usedAt ? agoWords(entry.usedAt, session.now) : 'never'
          }}</span></template
        ></Column
      ></Ledger
    >
    <p v-else-if="living.templates.length" class="blank">No template is like that.</p>
    <p v-else class="blank">
      Here the templates would stand: items that are made again and again, filled as far as they are
      always the same.
    </p>
    <TemplateForm
      v-if="editing"
      v-bind="
        editing === 'new' ? {} : 'from' in editing ? { from: editing.from } : { template: editing }
      "
      @close="editing = undefined"
      @kept="selected = $event"
    />
  </section>
  <Margin>
    <template v-if="chosen">
      <h2>{{ chosen.title }}</h2>
      <div class="quiet">
        {{ type(chosen)?.title }}, kept by {{ ownerWords(chosen)
        }}{{ chosen.retired ? ', retired' : '' }}
      </div>
      <p v-if="chosen.description" class="why">{{ chosen.description }}</p>
      <template v-if="chosen.stale.length"
        ><h3>What no longer fits</h3>
        <div v-for="entry in chosen.stale" :key="entry.pointer" class="wrong">
          <p class="warn">{{ entry.message }}</p>
          <p class="quiet">
            {{
              entry.mend ? `Mend: ${entry.mend}.` : 'This takes a decision: change the template.'
            }}
          </p>
        </div>
        <div v-if="chosen.mayEdit" class="acts">
          <Button
            v-if="chosen.stale.every((row) => row.mend !== null)"
            @click="mend(chosen)"
            label="Mend it"
          />
        </div>
        <p class="quiet">Used meanwhile, it leaves out what does not fit and says so.</p></template
      >
      <h3>What it holds</h3>
      <div class="line">
        <span>title</span><span>{{ chosen.content.item.title }}</span>
      </div>
      <div class="line">
        <span>values</span
        ><span>{{
          Object.keys(chosen.content.item.values).length +
          Object.keys(chosen.content.item.fields).length
        }}</span>
      </div>
      <div v-if="chosen.blanks.length" class="line">
        <span>blanks to fill</span><span>{{ chosen.blanks.join(', ') }}</span>
      </div>
      <div v-for="child in chosen.content.children.slice(0, 12)" :key="child.key" class="line">
        <span>below it</span><span>{{ child.title }}</span>
      </div>
      <p v-if="chosen.content.children.length > 12" class="quiet">
        and {{ chosen.content.children.length - 12 }} more
      </p>
      <h3>Use it in</h3>
      <div v-for="project in usable" :key="project.id" class="line">
        <RouterLink :to="link(project.code)">{{ project.title }}</RouterLink><Button
          variant="link"
          :aria-label="`Copy the link for ${project.title}`"
          @click="copyLink(project.code)"
          label="copy the link"
        />
      </div>
      <h3>Last changed</h3>
      <p class="quiet">
        {{ dayWords(chosen.changedAt, session.now) }}; last used
        {{ chosen.usedAt ? agoWords(chosen.usedAt, session.now) : 'never' }}
      </p>
      <div v-if="session.mayEdit" class="acts below">
        <Button
          severity="secondary"
          v-if="chosen.mayEdit"
          @click="editing = chosen"
          label="Change"
        /><Button severity="secondary" @click="copy(chosen)" label="Copy" /><Button
          severity="secondary"
          v-if="chosen.mayEdit"
          @click="
            living.change('PATCH /templates/{id}', {
              params: { id: chosen.id },
              body: { retired: !chosen.retired },
              match: chosen.version,
            })
          "
          :label="chosen.retired ? 'Bring back' : 'Retire'"
        />
      </div>
    </template>
  </Margin>
</template>

<style scoped>
.why {
  margin-top: 8px;
}
.below {
  margin-top: 14px;
}
.wrong {
  margin-bottom: 6px;
}
</style>
