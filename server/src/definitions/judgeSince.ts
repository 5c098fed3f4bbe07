import {
  type DefinitionsDocument,
  type Holding,
  type Mapping,
  mappingNeeds,
  noUsage,
  openNeeds,
} from '@bluestem/core/definitions'
import type { Draft } from './openDraft.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { refused } from '../problems/problem.ts'
import { heldSince } from '../items/counts.ts'
import type { Sequelize } from 'sequelize'

/** A mapping with how many items it was counted to concern. */
export type CountedMapping = Mapping & { readonly items: number }
/** Items written since they were counted may hold a value that goes out of use and that nobody was asked about. @throws Problem to be tried again */
export async function judgeSince(
  database: Sequelize,
  { world: { whole: world } }: ActorContext,
  document: DefinitionsDocument,
  draft: Draft,
  xmin: string,
): Promise<void> {
  const held = await heldSince(database, xmin)
  const holdings = held.flatMap(({ project_id, type_id, status_id, priority_id }): Holding[] => {
    const [project, type] = [
      world.numbers.identityOf('project', project_id),
      world.numbers.identityOf('type', type_id),
    ]
    const of = (column: 'type' | 'status' | 'priority', value: string | undefined): Holding[] =>
      value === undefined ? [] : [{ column, project, type, value, items: 1 }]
    return [
      ...of('type', type),
      ...of('status', world.numbers.identity('status', status_id)),
      ...of(
        'priority',
        priority_id === null ? undefined : world.numbers.identity('priority', priority_id),
      ),
    ]
  })
  const open = openNeeds(
    mappingNeeds(world.document, document, { ...noUsage, held: holdings }, draft.choices),
    draft.choices,
  )
  if (open.length > 0)
    throw refused(
      'An item came to hold a value that goes out of use while this was being published; try again.',
      [],
      { retry: true },
    )
}
