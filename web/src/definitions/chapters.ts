import { type Component, defineAsyncComponent } from 'vue'
import type { DefinitionsDocument } from '@bluestem/core/definitions'
import type { useLiving } from './store/living.store.ts'

/** What the counts beside the chapters are taken from. */
export interface Counted {
  readonly document: DefinitionsDocument
  readonly edition: number
  readonly living: Pick<
    ReturnType<typeof useLiving>,
    'labels' | 'components' | 'templates' | 'calendars' | 'people' | 'projects'
  >
}

export interface Chapter {
  readonly key: string
  readonly title: string
  readonly page: Component
  /** how many entries in use it has, where that says something */
  readonly count?: (counted: Counted) => number
  readonly forAdministrators?: boolean
}

type Entries =
  | Readonly<Record<string, { readonly retired?: boolean }>>
  | readonly { readonly retired?: boolean }[]

const inUse = (entries: Entries): number =>
  Object.values(entries).filter((entry) => !entry.retired).length

/** Every chapter of Definitions in its order; its page is read when it is opened first. */
export const chapters: readonly Chapter[] = [
  {
    key: 'start',
    title: 'Setting up',
    page: defineAsyncComponent(async () => await import('./start/StartChapter.vue')),
    forAdministrators: true,
  },
  {
    key: 'types',
    title: 'Types and forms',
    page: defineAsyncComponent(async () => await import('./types/TypesChapter.vue')),
    count: ({ document }) => inUse(document.types),
  },
  {
    key: 'fields',
    title: 'Fields',
    page: defineAsyncComponent(async () => await import('./fields/FieldsChapter.vue')),
    count: ({ document }) => inUse(document.fields),
  },
  {
    key: 'flows',
    title: 'Statuses and flows',
    page: defineAsyncComponent(async () => await import('./flows/FlowsChapter.vue')),
    count: ({ document }) => inUse(document.statuses),
  },
  {
    key: 'priorities',
    title: 'Priorities and ladders',
    page: defineAsyncComponent(async () => await import('./priorities/PrioritiesChapter.vue')),
    count: ({ document }) => inUse(document.priorities),
  },
  {
    key: 'labels',
    title: 'Labels',
    page: defineAsyncComponent(async () => await import('./labels/LabelsChapter.vue')),
    count: ({ living }) => inUse(living.labels),
  },
  {
    key: 'components',
    title: 'Components',
    page: defineAsyncComponent(async () => await import('./components/ComponentsChapter.vue')),
    count: ({ living }) => inUse(living.components),
  },
  {
    key: 'links',
    title: 'Links',
    page: defineAsyncComponent(async () => await import('./links/LinksChapter.vue')),
    count: ({ document }) => inUse(document.linkKinds),
  },
  {
    key: 'templates',
    title: 'Templates',
    page: defineAsyncComponent(async () => await import('./templates/TemplatesChapter.vue')),
    count: ({ living }) => inUse(living.templates),
  },
  {
    key: 'limits',
    title: 'Time limits',
    page: defineAsyncComponent(async () => await import('./limits/LimitsChapter.vue')),
    count: ({ document }) => inUse(document.limits),
  },
  {
    key: 'calendars',
    title: 'Calendars',
    page: defineAsyncComponent(async () => await import('./calendars/CalendarsChapter.vue')),
    count: ({ living }) => living.calendars.length,
  },
  {
    key: 'people',
    title: 'People and teams',
    page: defineAsyncComponent(async () => await import('./people/PeopleChapter.vue')),
    count: ({ living }) => living.people.filter((person) => person.active).length,
  },
  {
    key: 'projects',
    title: 'Projects',
    page: defineAsyncComponent(async () => await import('./projects/ProjectsChapter.vue')),
    count: ({ living }) => living.projects.length,
  },
  {
    key: 'rulebooks',
    title: 'Rulebooks',
    page: defineAsyncComponent(async () => await import('./rulebooks/RulebooksChapter.vue')),
    count: ({ document }) => inUse(document.rulebooks),
  },
  {
    key: 'editions',
    title: 'Editions',
    page: defineAsyncComponent(async () => await import('./editions/EditionsChapter.vue')),
    count: ({ edition }) => edition,
  },
  {
    key: 'audit',
    title: 'Audit',
    page: defineAsyncComponent(async () => await import('./audit/AuditChapter.vue')),
    forAdministrators: true,
  },
]
