import { movesFrom } from '@bluestem/core/definitions'
import { refuseMove } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { etagOf } from '../problems/etag.ts'
import { askingOf } from '../queries/answers.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { clocksOf } from './clocks.ts'
import { enteringFacts, flowFor, missingFor } from './entering.ts'
import { itemColumns, itemOf, refOf, type Row } from './row.ts'
import { find } from './storedItem.ts'
import type { World } from '../workspace/world.ts'
import { type Asking, Binds } from '../sql/statement.ts'

/** One item whole: its values, where it may go, and how it stands to its relatives. */

export async function readItem(
  database: Sequelize,
  acting: ActorContext,
  ref: string,
): Promise<{ body: object; etag: string }> {
  const { world } = acting
  const { row, id } = await find(database, acting, ref)
  const asking = askingOf(world, acting.person, acting.now)
  const item = await itemById(database, asking, id)
  const project = world.numbers.identity('project', row['project_id'] as number)!
  const type = world.numbers.identity('type', row['type_id'] as number)!
  const status = world.numbers.identity('status', row['status_id'] as number)!
  const flow = flowFor(world, project, type)
  const entering =
    flow.requirements.size > 0
      ? await enteringFacts(
          database,
          acting,
          world.projects.find((one) => one.id === project)!,
          row,
          false,
        )
      : undefined
  const title = (one: string): { id: string; title: string; mark: string } => ({
    id: one,
    title: world.document.statuses[one]!.title,
    mark: world.document.statuses[one]!.phase,
  })
  const children = await rows<Row>(
    database,
    `SELECT i.number, i.project_id, i.type_id, i.status_id, i.title FROM item i WHERE i.parent_id = $1 AND NOT i.deleted AND i.project_id = ANY($2::int[]) ORDER BY i.position, i.id LIMIT 200`,
    [id, asking.visible],
  )
  const [since] = await rows<{ since: Date }>(
    database,
    `SELECT coalesce((SELECT max(valid_to) FROM item_version WHERE id = $1 AND status_id <> $2), created_at) AS since FROM item WHERE id = $1`,
    [id, row['status_id']],
  )
  return {
    etag: etagOf(world, row),
    body: {
      ...item,
      etag: etagOf(world, row),
      rulebook: world.document.projects[project],
      statusSince: since!.since.toISOString(),
      holdSince: row['held_since'],
      moves: movesFrom(flow, status, world.document.statuses).map((to) => ({
        ...title(to),
        missing: entering ? missingFor(world, flow.requirements.get(to), entering) : [],
        says: flow.requirements.get(to)?.says ?? null,
        asksReason:
          flow.requirements.get(to)?.reason === true || flow.requirements.get(to)?.comment === true,
      })),
      limits: await clocksOf(database, acting, id, project, row),
      refusals: flow.statuses
        .filter((to) => to !== status && refuseMove(world.document, flow, status, to))
        .map((to) => ({
          ...title(to),
          message: refuseMove(world.document, flow, status, to)!.message,
        })),
      children: children.map((child) => ({
        ref: refOf(world, child),
        title: child['title'],
        type: chosenType(world, child),
        status: title(world.numbers.identity('status', child['status_id'] as number)!),
      })),
    },
  }
}
export const chosenType = (world: World, row: Row): object => {
  const id = world.numbers.identity('type', row['type_id'] as number)!
  const type = world.document.types[id]!
  return { id, title: type.title, mark: `${type.monogram}${type.tier}` }
}
export async function itemById(
  database: Sequelize,
  asking: Asking,
  id: number,
): Promise<Record<string, unknown>> {
  const binds = new Binds()
  const properties = [...asking.world.vocabulary.properties.values()]
  const { sql, bind } = binds.statement(
    `SELECT ${itemColumns(asking, properties)('x', binds).join(', ')} FROM item x WHERE x.id = ${binds.bind(id, 'int')}`,
  )
  const [row] = await rows<Row>(database, sql, bind)
  return itemOf(asking.world, row!, properties)
}
