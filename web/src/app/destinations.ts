/** Something one can go to by its words. */
export interface Destination {
  readonly to: string
  /** what it is, as a word: query, status, chapter */
  readonly kind: string
  readonly title: string
}

const chapter = (key: string, title: string): Destination => ({
  to: `/definitions/${key}`,
  kind: 'chapter',
  title,
})
const act = (to: string, title: string): Destination => ({ to, kind: 'act', title })

/** The chapters of Definitions. */
export const chapters: readonly Destination[] = [
  chapter('types', 'Types and forms'),
  chapter('fields', 'Fields'),
  chapter('flows', 'Statuses and flows'),
  chapter('priorities', 'Priorities and ladders'),
  chapter('labels', 'Labels'),
  chapter('components', 'Components'),
  chapter('links', 'Links'),
  chapter('templates', 'Templates'),
  chapter('limits', 'Time limits'),
  chapter('calendars', 'Calendars'),
  chapter('people', 'People and teams'),
  chapter('projects', 'Projects'),
  chapter('rulebooks', 'Rulebooks'),
  chapter('editions', 'Editions'),
]

/** Acts that begin from anywhere. */
export const acts: readonly Destination[] = [
  act('/queries/new', 'Ask a new question'),
  act('/dashboards/measures', 'Define a measure'),
  { to: '/guide/setting-up', kind: 'guide', title: 'Setting up a workspace' },
  {
    to: '/guide/changing-what-others-share',
    kind: 'guide',
    title: 'Changing something that others share',
  },
]

/** Acts of administrators. */
export const administratorActs: readonly Destination[] = [
  chapter('start', 'Setting up'),
  chapter('audit', 'Audit'),
  act('/consistency/jobs', 'See the jobs'),
  act('/definitions/projects?make', 'Make a new project'),
]
