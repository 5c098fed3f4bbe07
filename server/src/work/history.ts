import { changeInWords } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import type { World } from '../workspace/world.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { notFound } from '../problems/problem.ts'
import { isNumber } from './storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { authorOf, factsOf, itemOfFacts, type ItemRow } from '../items/row.ts'

const statesSql = (
  world: World,
): string => `SELECT s.valid_from, s.valid_to, ${world.columns.map((column) => `s.${column}`).join(', ')}, t.description,
    (SELECT (SELECT code FROM project WHERE id = up.project_id) || '/' || up.number FROM item up WHERE up.id = s.parent_id AND up.project_id = ANY($2::int[])) AS parent_ref
  FROM item_state s LEFT JOIN item_text t ON t.item_id = s.id AND t.valid_from <= s.valid_from AND t.valid_to > s.valid_from
  WHERE s.id = $1 AND s.project_id = ANY($2::int[]) ORDER BY s.valid_from`

/** Everything that happened to an item, oldest first: each state with its span, who made it, and what changed, in words. */
export async function history(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<object> {
  const { world, person } = actor
  const [code, number] = ref.split('/')
  const project = world.projects.find((one) => one.code === code)
  const visible = visibleProjects(world, person)
  const [item] =
    project && visible.includes(project.number) && isNumber(number)
      ? await rows<{ id: number }>(
          database,
          'SELECT id FROM item WHERE project_id = $1 AND number = $2',
          [project.number, Number(number)],
        )
      : []
  if (!item) throw notFound(`item ${ref}`)
  return { versions: await versions(database, actor, item.id, visible) }
}

async function versions(
  database: Sequelize,
  { world }: ActorContext,
  id: number,
  visible: readonly number[],
): Promise<object[]> {
  const states = await rows<ItemRow>(database, statesSql(world), [id, visible])
  const facts = states.map((row) => factsOf(world, row))
  return states.map((row, index) => ({
    from: (row['valid_from'] as Date).toISOString(),
    to: row['valid_to'] instanceof Date ? row['valid_to'].toISOString() : null,
    by: authorOf(world, row),
    words: changeInWords(facts[index - 1], facts[index]!, world.vocabulary, world.zone),
    state: itemOfFacts(world, facts[index]!),
  }))
}

/** What was changed since the version somebody read, for the answer to a lost race. */
export async function changedSince(
  database: Sequelize,
  actor: ActorContext,
  id: number,
  since: number,
): Promise<{ from: string; by: { kind: string }; words: object }[]> {
  const all = (await versions(database, actor, id, visibleProjects(actor.world, actor.person))) as {
    from: string
    by: { kind: string }
    words: object
  }[]
  return all
    .filter((version) => Date.parse(version.from) > since)
    .map(({ from, by, words }) => ({ from, by, words }))
}
