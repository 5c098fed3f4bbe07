import type { ActAnswer } from '@bluestem/core/audit'

/** In which chapter the kinds of things stand that acts are about. */
const chapters: Readonly<Record<string, string>> = {
  label: 'labels',
  component: 'components',
  calendar: 'calendars',
  team: 'people',
  person: 'people',
  rulebook: 'rulebooks',
  template: 'templates',
  edition: 'editions',
}
/** Where saved things stand, each on a page of its own. */
const libraries: Readonly<Record<string, string>> = {
  query: 'queries',
  view: 'views',
  dashboard: 'dashboards',
}

/** What an act was about, in words. */
export const actWords = ({ subject, title }: ActAnswer): string =>
  title === null ? subject : `${subject.split(' ')[0]} “${title}”`

/** Where what an act was about stands; nothing where it is gone, or has no place of its own. */
export function placeOf({ act, subject }: ActAnswer): string | undefined {
  const [kind = '', id = ''] = subject.split(' ')
  if (act.startsWith('deleted')) return undefined
  if (kind === 'project') return `/work/${id}`
  if (libraries[kind]) return `/${libraries[kind]}/${id}`
  return chapters[kind] && `/definitions/${chapters[kind]}?id=${id}`
}
