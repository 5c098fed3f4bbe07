import { type Flow, flowOf, type Requirement } from '@bluestem/core/definitions'
import { article, type Entering, unmet, unmetInWords } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { enteringRow } from '../items/read.ts'
import type { Project, World } from '../workspace/world.ts'
import { refused } from '../problems/problem.ts'
import { columnOf } from '../sql/property.ts'
import type { QueryContext } from '../sql/statement.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { ItemRow } from '../items/row.ts'

/** The flow an item is in: its project's, for its type. */
export const flowFor = (world: World, project: string, type: string): Flow =>
  flowOf(world.document, world.document.projects[project]!, type)

/** What is known of an item that is about to enter a status; `row` as it will be, `reasoned` when something is said with the move. */
export async function enteringFacts(
  database: Sequelize,
  { world, person }: ActorContext,
  project: Project,
  row: ItemRow,
  reasoned: boolean,
): Promise<Entering> {
  const found = await enteringRow(database, row['id'] as number, row['status_id'])
  const been = new Set(found.been.map((number) => world.numbers.identity('status', number)))
  return {
    roles: [
      ...(person.role === 'administrator' ? ['administrator' as const] : []),
      ...(person.role === 'administrator' || project.keepers.has(person.number)
        ? ['keeper of the project' as const]
        : []),
      ...(row['assignee_id'] === person.number ? ['assignee' as const] : []),
    ],
    filled: (field) => holdsSomething(world, row, field),
    openBelow: found.open_below,
    commented: found.commented,
    reasoned,
    been: (status) => been.has(status),
  }
}

/** Whether a row holds something in a field, named by identity or, for a built-in one, by handle. */
export function holdsSomething(world: World, row: ItemRow, field: string): boolean {
  const property = world.vocabulary.properties.get(world.document.fields[field]?.handle ?? field)
  const column = property && columnOf({ world } as QueryContext, property)
  const value = column ? row[column] : field === 'description' ? row['description'] : undefined
  return (
    value !== null &&
    value !== undefined &&
    value !== '' &&
    !(Array.isArray(value) && value.length === 0)
  )
}

/** What an item still lacks for entering a status, as people read it. */
export const missingFor = (
  world: World,
  requirement: Requirement | undefined,
  entering: Entering,
): string[] =>
  requirement ? unmet(requirement, entering).map((part) => unmetInWords(world.document, part)) : []

/** @throws Problem 409 with what is missing, and what the rulebook says to whoever is refused */
export function judgeEntering(world: World, flow: Flow, status: string, entering: Entering): void {
  const requirement = flow.requirements.get(status)
  const missing = missingFor(world, requirement, entering)
  if (missing.length === 0) return
  const type = world.document.types[flow.type]?.title ?? flow.type
  const says = requirement!.says ? `${requirement!.says} ` : ''
  throw refused(
    `${says}${article(type)} ${type} does not enter ${world.document.statuses[status]?.title ?? status} yet: ${missing.join(' ')}`,
    missing.map((message) => ({ pointer: '/status', message })),
    { missing, says: requirement!.says ?? null },
  )
}
