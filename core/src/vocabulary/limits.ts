import type { DefinitionsDocument } from '../definitions/document/document.ts'
import { columnOfLimit } from '../definitions/document/limitColumn.ts'
import { inOrder } from '../definitions/document/ordered.ts'
import { offeredOf } from '../definitions/rulebook/rulebook.ts'
import type { Vocabulary } from '../queries/tree/vocabulary.ts'
import type { Property } from '../queries/tree/checked.ts'
import type { Living } from './living.ts'

/** The time limits that are in use, with the projects whose rulebooks offer them. */
export function limitsOf(document: DefinitionsDocument): Vocabulary['limits'] {
  const projects = new Map<string, Set<string>>()
  for (const [project, rulebook] of Object.entries(document.projects))
    for (const limit of offeredOf(document, rulebook, 'limit'))
      projects.set(limit, (projects.get(limit) ?? new Set()).add(project))
  return new Map(
    inOrder(document.limits)
      .filter((limit) => !limit.retired)
      .map((limit) => [limit.id, { ...limit, projects: projects.get(limit.id) ?? new Set() }]),
  )
}

/** The working time of a project: of its own calendar, or of the standard one. */
export function workingTimes({ projects, calendars }: Living): Vocabulary['workingOf'] {
  const byProject = new Map(projects.map(({ id, calendar }) => [id, calendar]))
  const standard = calendars.find((calendar) => calendar.standard) ?? { hours: {}, daysOff: [] }
  return (project) =>
    calendars.find((calendar) => calendar.id === byProject.get(project)) ?? standard
}

/** What is left of each time limit, as a column; one of a retired limit is empty, and stays where lists have it. */
export const columnsOfLimits = (document: DefinitionsDocument): Property[] =>
  inOrder(document.limits).map(({ id, title, retired }) => ({
    handle: columnOfLimit(id),
    title: `${title}: left${retired ? ' (retired)' : ''}`,
    type: { kind: 'number' },
    changesWith: ['own', 'kin', 'clock', 'definition'],
    nullable: true,
    builtIn: true,
    leftOf: id,
  }))
