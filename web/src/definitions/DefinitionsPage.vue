<script setup lang="ts">
import { type Component, computed, defineAsyncComponent, onBeforeUnmount, onMounted } from 'vue'
import { useRoute } from 'vue-router'
import { onChange } from '../api/live.ts'
import { useSession } from '../app/session.store.ts'
import { useDefinitions } from './definitions.store.ts'
import { useLiving } from './living.store.ts'
import ChapterList from '../parts/ChapterList.vue'
import DraftStrip from './draft/DraftStrip.vue'

const definitions = useDefinitions()
const living = useLiving()
const session = useSession()
const route = useRoute()
// An address may say in which rulebook a chapter is opened.
if (typeof route.query['rulebook'] === 'string') definitions.rulebook = route.query['rulebook']
const count = (map: Readonly<Record<string, { retired?: boolean }>>): number =>
  Object.values(map).filter((one) => !one.retired).length
/** Setting up is shown until it is done, and whoever goes there finds it afterwards too. */
const showsStart = computed(
  () => session.isSettingUp || (session.mayDefine && route.params['chapter'] === 'start'),
)
const chapters = computed(() => {
  const { document } = definitions
  return [
    ...(showsStart.value
      ? [
          {
            key: 'start',
            title: 'Setting up',
            page: defineAsyncComponent(async () => await import('./start/StartChapter.vue')),
            count: null,
          },
        ]
      : []),
    {
      key: 'types',
      title: 'Types and forms',
      page: defineAsyncComponent(async () => await import('./types/TypesChapter.vue')),
      count: count(document.types),
    },
    {
      key: 'fields',
      title: 'Fields',
      page: defineAsyncComponent(async () => await import('./fields/FieldsChapter.vue')),
      count: count(document.fields),
    },
    {
      key: 'flows',
      title: 'Statuses and flows',
      page: defineAsyncComponent(async () => await import('./flows/FlowsChapter.vue')),
      count: count(document.statuses),
    },
    {
      key: 'priorities',
      title: 'Priorities and ladders',
      page: defineAsyncComponent(async () => await import('./priorities/PrioritiesChapter.vue')),
      count: count(document.priorities),
    },
    {
      key: 'labels',
      title: 'Labels',
      page: defineAsyncComponent(async () => await import('./labels/LabelsChapter.vue')),
      count: living.labels.filter((one) => !one.retired).length,
    },
    {
      key: 'components',
      title: 'Components',
      page: defineAsyncComponent(async () => await import('./components/ComponentsChapter.vue')),
      count: living.components.filter((one) => !one.retired).length,
    },
    {
      key: 'links',
      title: 'Links',
      page: defineAsyncComponent(async () => await import('./links/LinksChapter.vue')),
      count: count(document.linkKinds),
    },
    {
      key: 'templates',
      title: 'Templates',
      page: defineAsyncComponent(async () => await import('./templates/TemplatesChapter.vue')),
      count: living.templates.filter((one) => !one.retired).length,
    },
    {
      key: 'limits',
      title: 'Time limits',
      page: defineAsyncComponent(async () => await import('./limits/LimitsChapter.vue')),
      count: count(document.limits),
    },
    {
      key: 'calendars',
      title: 'Calendars',
      page: defineAsyncComponent(async () => await import('./calendars/CalendarsChapter.vue')),
      count: living.calendars.length,
    },
    {
      key: 'people',
      title: 'People and teams',
      page: defineAsyncComponent(async () => await import('./people/PeopleChapter.vue')),
      count: living.people.filter((one) => one.active).length,
    },
    {
      key: 'projects',
      title: 'Projects',
      page: defineAsyncComponent(async () => await import('./projects/ProjectsChapter.vue')),
      count: living.projects.length,
    },
    {
      key: 'rulebooks',
      title: 'Rulebooks',
      page: defineAsyncComponent(async () => await import('./rulebooks/RulebooksChapter.vue')),
      count: count(document.rulebooks),
    },
    {
      key: 'editions',
      title: 'Editions',
      page: defineAsyncComponent(async () => await import('./editions/EditionsChapter.vue')),
      count: definitions.edition?.number ?? 0,
    },
    ...(session.mayDefine
      ? [
          {
            key: 'audit',
            title: 'Audit',
            page: defineAsyncComponent(async () => await import('./audit/AuditChapter.vue')),
            count: null,
          },
        ]
      : []),
  ]
})
const here = computed(
  () =>
    chapters.value.find((chapter) => chapter.key === route.params['chapter']) ??
    chapters.value.find((chapter) => chapter.key === 'fields')!,
)
const listed = computed(() =>
  chapters.value.map((one) => ({ ...one, count: definitions.loaded ? one.count : null })),
)
// One component a chapter, however often the counts beside it change.
const pages = new Map<string, Component>()
const page = computed(() => {
  const { key, page: made } = here.value
  const known = pages.get(key) ?? made
  pages.set(key, known)
  return known
})
const reload = async (): Promise<void> => {
  await Promise.all([definitions.load(), living.load()])
}
onMounted(reload)
// Editions, drafts and labels of others show at once; one's own were shown already.
const stop = onChange(({ kind }) => {
  if (['edition', 'draft', 'mapping', 'everything'].includes(kind)) void definitions.load()
  if (['label', 'component', 'template', 'calendar', 'team', 'project', 'person'].includes(kind))
    void living.load()
})
onBeforeUnmount(stop)
</script>

<template>
  <div class="book">
    <DraftStrip v-if="definitions.loaded" />
    <div class="spread">
      <ChapterList :chapters="listed" place="/definitions" :here="here.key" label="Chapters" />
      <component :is="page" v-if="definitions.loaded && living.loaded" />
    </div>
  </div>
</template>

<style>
.book {
  flex: 1;
  min-width: 0;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.spread {
  flex: 1;
  min-height: 0;
  display: flex;
}
.book .sheet {
  padding-left: 30px;
}
.book .inline {
  width: auto;
  max-width: 220px;
  min-height: 26px;
  padding: 1px 4px;
}
.book .narrow {
  width: 170px;
  min-height: 26px;
  padding: 1px 8px;
}
.book .retired td:not(:last-child) {
  color: var(--quiet);
  text-decoration: line-through;
}
.in-draft td:first-child {
  box-shadow: inset 3px 0 0 var(--leaf);
}
.draft-mark {
  font-size: 12px;
  color: var(--leaf);
  margin-left: 6px;
}
.nowrap {
  white-space: nowrap;
}
.book .scrolls {
  flex: 1;
  min-height: 120px;
  overflow: auto;
  contain: strict;
}
.book .scrolls thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 1;
}
.book .scrolls .filler td {
  height: 0;
  padding: 0;
  border: 0;
}
</style>
