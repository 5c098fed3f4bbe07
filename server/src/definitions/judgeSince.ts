import {
  type DefinitionsDocument,
  type Holding,
  type Mapping,
  mappingNeeds,
  noUsage,
  openNeeds,
} from '@bluestem/core/definitions'
import type { Draft } from './drafts.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { refused } from '../problems/problem.ts'
import { rows } from '../database/connect.ts'
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
  const held = await rows<{
    project_id: number
    type_id: number
    status_id: number
    priority_id: number | null
  }>(
    database,
    `SELECT DISTINCT i.project_id, i.type_id, i.status_id, i.priority_id FROM outbox o JOIN project p ON p.code = split_part(o.subject, '/', 1)
    JOIN item i ON i.project_id = p.id AND i.number = split_part(o.subject, '/', 2)::int WHERE o.kind = 'item' AND o.xid >= $1::text::xid8 AND NOT i.deleted`,
    [xmin],
  )
  const holdings = held.flatMap(({ project_id, type_id, status_id, priority_id }): Holding[] => {
    const [project, type] = [
      world.numbers.identity('project', project_id)!,
      world.numbers.identity('type', type_id)!,
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
