import { type Chapter, chapters } from '../definitions/chapters.ts'

/** Something one can go to by its words. */
export interface Destination {
  readonly to: string
  /** what it is, as a word: query, status, chapter */
  readonly kind: string
  readonly title: string
}

const act = (to: string, title: string): Destination => ({ to, kind: 'act', title })
const destinationOf = ({ key, title }: Chapter): Destination => ({
  to: `/definitions/${key}`,
  kind: 'chapter',
  title,
})

/** The chapters of Definitions that everybody may read. */
export const openChapters: readonly Destination[] = chapters
  .filter((chapter) => !chapter.forAdministrators)
  .map(destinationOf)

/** Acts that begin from anywhere. */
export const acts: readonly Destination[] = [
  act('/queries/new', 'Ask a new question'),
  act('/dashboards/measures', 'Define a measure'),
  act('/iterations', 'Plan iterations'),
  act('/releases', 'Plan releases'),
  act('/jots', 'File what you jotted down'),
  act('/import', 'Bring in a file'),
  act('/bin', 'Bring something back from the bin'),
  act('/changes', 'Undo a change of many items'),
  { to: '/guide/setting-up', kind: 'guide', title: 'Setting up a workspace' },
  { to: '/guide/bringing-work-in', kind: 'guide', title: 'Bringing work in, and exporting it' },
  { to: '/guide/changing-many-at-once', kind: 'guide', title: 'Changing many at once' },
  { to: '/guide/planning-spans', kind: 'guide', title: 'Planning spans' },
  {
    to: '/guide/changing-what-others-share',
    kind: 'guide',
    title: 'Changing something that others share',
  },
]

/** Chapters and acts of administrators. */
export const administratorActs: readonly Destination[] = [
  ...chapters.filter((chapter) => chapter.forAdministrators).map(destinationOf),
  act('/consistency/jobs', 'See the jobs'),
  act('/definitions/projects?make', 'Make a new project'),
]
