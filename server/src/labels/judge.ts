import { visibleProjects } from '../workspace/visibility.ts'
import { isKeeperOfProject, rulebooksKeptBy } from '../workspace/rights.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { forbidden, invalid, notFound, refused } from '../problems/problem.ts'
import type { World } from '../workspace/world.ts'
import type { Label } from '../workspace/living.ts'
import { cleanText } from '@bluestem/core/work'

/** Rulebooks that say a family is closed to members. */
export const closing = (world: World, family: string): string[] =>
  Object.entries(world.document.rulebooks)
    .filter(([, rulebook]) => {
      const entry = rulebook.entries[`family:${family}`]
      return entry !== undefined && entry !== 'out' && entry.closed === true
    })
    .map(([id]) => id)
/** Who may make labels where: members, but in a closed family only its rulebook's keepers; in a project whoever sees it. */
export function judgeMaking(
  { world, person }: ActorContext,
  family: string | null,
  project: string | null,
): void {
  if (person.role === 'administrator') return
  if (
    project !== null &&
    !visibleProjects(world, person).includes(world.numbers.of('project', project) ?? -1)
  )
    throw notFound('project of this identity')
  const closed = family === null ? [] : closing(world, family)
  if (
    closed.length > 0 &&
    !closed.some((rulebook) => rulebooksKeptBy(world, person).includes(rulebook))
  )
    throw forbidden(
      `Members make no labels in “${world.document.families[family ?? '']?.title}”: the family is closed. Ask a keeper of the rulebook.`,
    )
}

/** Who may change a label: administrators; keepers of its project; keepers of a rulebook that closes its family. */
export function judgeChanging({ world, person }: ActorContext, label: Label): void {
  if (person.role === 'administrator') return
  if (label.project !== null && isKeeperOfProject(world, person, label.project)) return
  if (
    label.family !== null &&
    closing(world, label.family).some((rulebook) =>
      rulebooksKeptBy(world, person).includes(rulebook),
    ) &&
    person.role === 'member'
  )
    return
  throw forbidden(
    label.project === null
      ? 'Only administrators change labels that everyone shares.'
      : 'Only the keepers of its project change this label.',
  )
}

export function cleanLabel(title: string): string {
  const clean = cleanText(title)
  const text = clean.ok ? clean.text.trim().replace(/\s+/g, ' ') : ''
  if (!clean.ok || text === '' || text.length > 60)
    throw invalid([
      {
        pointer: '/title',
        message: clean.ok ? 'A label has a title of at most 60 characters.' : clean.message,
        expected: '1 to 60 characters',
      },
    ])
  return text
}

export function place(
  { world }: ActorContext,
  family: string | null,
  project: string | null,
): { family: number | null; project: number | null } {
  const familyNumber =
    family === null
      ? null
      : world.document.families[family] && !world.document.families[family].retired
        ? world.numbers.of('family', family)
        : undefined
  if (familyNumber === undefined)
    throw invalid([
      {
        pointer: '/family',
        message: 'There is no such family.',
        expected: 'the identity of a family',
        found: family ?? '',
      },
    ])
  const projectNumber = project === null ? null : world.numbers.of('project', project)
  if (projectNumber === undefined)
    throw invalid([
      {
        pointer: '/project',
        message: 'There is no such project.',
        expected: 'the identity of a project',
        found: project ?? '',
      },
    ])
  return { family: familyNumber, project: projectNumber }
}

export function judgeTitle(
  world: World,
  title: string,
  family: string | null,
  project: string | null,
  except?: string,
): void {
  const twin = world.labels.find(
    (label) =>
      !label.retired &&
      label.id !== except &&
      label.family === family &&
      label.project === project &&
      label.title.toLowerCase() === title.toLowerCase(),
  )
  if (twin)
    throw refused(
      `There is a label “${twin.title}” here already.`,
      [
        {
          pointer: '/title',
          message: 'This label exists.',
          expected: 'a title of its own',
          found: title,
        },
      ],
      { exists: twin.id },
    )
}
