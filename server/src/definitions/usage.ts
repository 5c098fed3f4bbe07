import { inOrder, type Usage } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { fieldColumn } from '../database/columns.ts'
import { rows } from '../database/connect.ts'
import type { World } from '../database/world.ts'

/** How many items use each definition now, of those in the given projects: the ones the asker may see, which for an administrator are all. */
export async function usageOf(database: Sequelize, world: World, visible: readonly number[]): Promise<Usage> {
  const standing = await rows<{ type_id: number; status_id: number; count: number }>(database, 'SELECT type_id, status_id, count(*) AS count FROM item WHERE NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1, 2', [visible])
  const priorities = await rows<{ priority_id: number; count: number }>(database, 'SELECT priority_id, count(*) AS count FROM item WHERE NOT deleted AND project_id = ANY($1::int[]) AND priority_id IS NOT NULL GROUP BY 1', [visible])
  const fields = inOrder(world.document.fields).map((field) => ({ id: field.id, column: fieldColumn(world.numbers.of('field', field.id)!), several: field.kind === 'several choices' || field.kind === 'people' }))
  const [filled] = fields.length === 0 ? [{}] : await rows<Record<string, number>>(database, `SELECT ${fields.map(({ column, several }) => `count(*) FILTER (WHERE ${several ? `cardinality(${column}) > 0` : `${column} IS NOT NULL`}) AS ${column}`).join(', ')} FROM item WHERE NOT deleted AND project_id = ANY($1::int[])`, [visible])
  const items: Record<string, number> = {}
  const add = (id: string | undefined, count: number): void => void (id !== undefined && (items[id] = (items[id] ?? 0) + count))
  for (const { type_id, status_id, count } of standing) {
    add(world.numbers.identity('type', type_id), count)
    add(world.numbers.identity('status', status_id), count)
  }
  for (const { priority_id, count } of priorities) add(world.numbers.identity('priority', priority_id), count)
  for (const { id, column } of fields) add(id, filled?.[column] ?? 0)
  return {
    items,
    standing: Object.fromEntries(standing.map(({ type_id, status_id, count }) => [`${world.numbers.identity('type', type_id)}:${world.numbers.identity('status', status_id)}`, count])),
  }
}

/** How often each move of a type was really made since a moment, as `FROM:TO`. */
export async function movesMade(database: Sequelize, world: World, visible: readonly number[], type: string, since: Date): Promise<Record<string, number>> {
  const made = await rows<{ before: number; status_id: number; count: number }>(database, `
    SELECT before, status_id, count(*) AS count FROM (
      SELECT status_id, valid_from, lag(status_id) OVER (PARTITION BY id ORDER BY valid_from) AS before FROM item_state WHERE type_id = $1 AND valid_to > $2 AND project_id = ANY($3::int[])) z
    WHERE before <> status_id AND valid_from >= $2 GROUP BY 1, 2`, [world.numbers.of('type', type) ?? -1, since, visible])
  return Object.fromEntries(made.map(({ before, status_id, count }) => [`${world.numbers.identity('status', before)}:${world.numbers.identity('status', status_id)}`, count]))
}

/** When each field was last filled or changed is costly to ask of all history; the present’s latest change of an item that holds it stands for it. */
export async function lastUsed(database: Sequelize, world: World, visible: readonly number[]): Promise<Record<string, string | null>> {
  const fields = inOrder(world.document.fields)
  if (fields.length === 0) return {}
  const column = (id: string): string => fieldColumn(world.numbers.of('field', id)!)
  const parts = fields.map((field) => `max(changed_at) FILTER (WHERE ${field.kind === 'several choices' || field.kind === 'people' ? `cardinality(${column(field.id)}) > 0` : `${column(field.id)} IS NOT NULL`}) AS ${column(field.id)}`)
  const [row] = await rows<Record<string, Date | null>>(database, `SELECT ${parts.join(', ')} FROM item WHERE NOT deleted AND project_id = ANY($1::int[])`, [visible])
  return Object.fromEntries(fields.map((field) => [field.id, row?.[column(field.id)]?.toISOString() ?? null]))
}
