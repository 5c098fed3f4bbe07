<script setup lang="ts">
import type { DraftAnswer, DraftChange } from '@bluestem/core/definitions'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useSession } from '../../session/session.store.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { leftToDo } from './ready.ts'

/** Beside a review: what is left to do, who else is at work, and what names what changes. */
const { draft } = defineProps<{ draft: DraftAnswer }>()
const definitions = useDefinitions()
const session = useSession()
const left = computed(() => leftToDo(draft))
const others = computed(() => definitions.drafts.filter((entry) => entry.id !== draft.id))
const here = computed(() => [
  ...new Set(
    draft.changes.map((change) => change.by).filter((by) => by !== session.session?.person.name),
  ),
])

type Named = DraftChange['named'][number]
const kinds: readonly (readonly [Named['kind'], string, string | undefined])[] = [
  ['view', 'Views', '/views/'],
  ['query', 'Queries', '/queries/'],
  ['measure', 'Measures', undefined],
  ['dashboard', 'Dashboards', '/dashboards/'],
  ['template', 'Templates', '/definitions/templates?id='],
  ['team', 'Teams', '/definitions/people?id='],
]
/** Everything that names something the draft changes, once, by its kind. */
const named = computed(() => {
  const all = new Map(
    draft.changes.flatMap((change) => change.named).map((entry) => [entry.id, entry]),
  )
  return kinds.flatMap(([kind, title, place]) => {
    const found = [...all.values()].filter((entry) => entry.kind === kind)
    return found.length > 0 ? [{ kind, title, place, found }] : []
  })
})
</script>

<template>
  <h2>Left to do</h2>
  <dl v-if="left.length">
    <div v-for="entry in left" :key="entry.words">
      <dt class="warn">{{ entry.words }}</dt>
      <dd>{{ entry.count }}</dd>
    </div>
  </dl>
  <p v-else-if="draft.changes.length" class="quiet">
    Nothing. All of it takes effect at once, or nothing does.
  </p>
  <p v-else class="quiet">Change something in a chapter first.</p>
  <template v-if="others.length || here.length"
    ><h3>Who else is at work</h3>
    <dl>
      <div v-for="name in here" :key="name">
        <dt>{{ name }}</dt>
        <dd>in this draft</dd>
      </div>
      <div v-for="other in others" :key="other.id">
        <dt>
          <Button variant="link" :label="other.title" @click="definitions.chosenDraft = other.id" />
        </dt>
        <dd>{{ other.proposed ? 'proposal' : 'draft' }} of {{ other.by }}</dd>
      </div>
    </dl></template
  >
  <template v-for="group in named" :key="group.kind"
    ><h3>{{ group.title }}</h3>
    <ul>
      <li v-for="entry in group.found" :key="entry.id">
        <RouterLink v-if="group.place && entry.id" :to="`${group.place}${entry.id}`">{{
          entry.title
        }}</RouterLink><template v-else>{{ entry.title }}</template>
      </li>
    </ul></template
  >
</template>

<style scoped>
dl,
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 13px;
}
dl > div {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
dl > div,
li {
  padding: 3px 0;
  border-bottom: 1px solid var(--hair);
}
dd {
  margin: 0;
  text-align: right;
}
</style>
