import { certain } from '@bluestem/core/known'
import type { BulkItems } from '@bluestem/core/bulk'
import type { Sequelize } from 'sequelize'
import { idsOfPlaces } from '../items/bulk.ts'
import { invalid } from '../problems/problem.ts'
import { readFilter, readSavedFilter } from '../queries/filter.ts'
import { idsStatement } from '../sql/answers.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { queryRows } from '../sql/run.ts'
import { placeOf } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** How many items one change may concern. */
export const mostItems = 50_000

/**
 * The ids of the items that a change is meant for, in the order of their making.
 *
 * @throws Problem 400 where there are more than a change may concern, 404 for a ref of a project that is not to be seen
 */
export async function idsOf(
  database: Sequelize,
  actor: ActorContext,
  items: BulkItems,
): Promise<number[]> {
  const ids =
    'refs' in items
      ? await named(database, actor, items.refs)
      : await answers(database, actor, items)
  if (ids.length > mostItems)
    throw invalid([
      {
        pointer: '/items',
        message: `These are ${ids.length} items; at most ${mostItems} are changed at once.`,
        expected: 'a narrower query',
        found: String(ids.length),
      },
    ])
  return ids
}

async function named(
  database: Sequelize,
  actor: ActorContext,
  refs: readonly string[],
): Promise<number[]> {
  const places = refs.map((ref) => placeOf(actor, ref))
  return await idsOfPlaces(
    database,
    places.map(({ project }) => project.number),
    places.map(({ number }) => number),
  )
}

async function answers(
  database: Sequelize,
  actor: ActorContext,
  asked: Extract<BulkItems, { filter: unknown }>,
): Promise<number[]> {
  const { world, person, now } = actor
  const condition = asked.kept
    ? readSavedFilter(world, asked.filter)
    : readFilter(world, asked.filter, asked['filter-lang'])
  const statement = certain(
    idsStatement(queryContextOf(world, person, now), condition, 'answers'),
    'statement of answers',
  )
  const found = await queryRows<{ id: number }>(database, statement)
  const except = new Set(await named(database, actor, asked.except ?? []))
  return found.map(({ id }) => id).filter((id) => !except.has(id))
}
