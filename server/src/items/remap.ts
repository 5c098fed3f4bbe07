import { asNumbers, firstIn } from '@bluestem/core/known'
import { remappedArray } from '../sql/remapped.ts'
import type { PendingMapping } from '../workspace/mappings.ts'
import type { Sequelize } from 'sequelize'
import { row, rows, run } from '../database/connect.ts'
import { phaseSets, writeVersions } from './write.ts'
import type { StateRow } from './row.ts'
import { byKinds } from '../workspace/author.ts'

/** Whether a row still holds what a mapping replaces. */
export function concerns(mapping: PendingMapping, row: StateRow): boolean {
  if (
    row.deleted ||
    !mapping.projects.includes(row.project_id) ||
    !mapping.types.includes(row.type_id)
  )
    return false
  // A status that stays itself in another phase is carried out once the phase is the new one.
  if (mapping.to === mapping.from)
    return row[mapping.column] === mapping.from && row.phase !== mapping.phase
  return mapping.several
    ? asNumbers(row[mapping.column]).includes(mapping.from)
    : row[mapping.column] === mapping.from
}

const concernedSql = (mapping: PendingMapping): string => {
  const holds = mapping.several ? `${mapping.column} @> ARRAY[$1::int]` : `${mapping.column} = $1`
  return `${holds}${mapping.to === mapping.from ? ' AND phase <> $4' : ' AND $4::int IS NULL'} AND project_id = ANY($2::int[]) AND type_id = ANY($3::int[]) AND NOT deleted`
}

const concernedBind = (mapping: PendingMapping): unknown[] => [
  mapping.from,
  mapping.projects,
  mapping.types,
  mapping.to === mapping.from ? mapping.phase : null,
]

/** Items that a mapping still has to rewrite, the first by id after one that was read before. */
export async function concernedItems(
  database: Sequelize,
  mapping: PendingMapping,
  limit: number,
  after = 0,
): Promise<number[]> {
  return (
    await rows<{ id: number }>(
      database,
      `SELECT id FROM item WHERE ${concernedSql(mapping)} AND id > $6 ORDER BY id LIMIT $5`,
      [...concernedBind(mapping), limit, after],
    )
  ).map((row) => row.id)
}

export async function countConcerned(
  database: Sequelize,
  mapping: PendingMapping,
): Promise<number> {
  return firstIn(
    await rows<{ count: number }>(
      database,
      `SELECT count(*) AS count FROM item WHERE ${concernedSql(mapping)}`,
      concernedBind(mapping),
    ),
  ).count
}

/** Rewrites items by a mapping: their states change now, by its author, and `changed` stays. Rows that somebody else mapped meanwhile are left alone. */
export async function rewriteItems(
  database: Sequelize,
  columns: readonly string[],
  mapping: PendingMapping,
  ids: readonly number[],
  now: Date,
): Promise<number> {
  const still = (
    await rows<{ id: number }>(
      database,
      `SELECT id FROM item WHERE ${concernedSql(mapping)} AND id = ANY($5::int[]) ORDER BY id FOR UPDATE`,
      [...concernedBind(mapping), ids],
    )
  ).map((row) => row.id)
  if (still.length === 0) return 0
  const bind: unknown[] = [
    still,
    now,
    byKinds.indexOf(mapping.author.kind),
    mapping.author.number,
    mapping.from,
    mapping.to,
    mapping.phase,
  ]
  const value = mapping.several
    ? remappedArray(`i.${mapping.column}`, '$5::int', '$6::int')
    : `CASE WHEN i.${mapping.column} = $5::int THEN $6::int ELSE i.${mapping.column} END`
  const sets = [
    `${mapping.column} = ${value}`,
    ...(mapping.phase === null
      ? ['phase = coalesce($7::smallint, i.phase)']
      : ['phase = $7::smallint', ...phaseSets('$7::smallint')]),
  ]
  await writeVersions(database, columns, sets, bind, mapping.author)
  await run(database, 'UPDATE mapping SET moved = moved + $2 WHERE id = $1', [
    mapping.id,
    still.length,
  ])
  return still.length
}

/** Keeps a mapping to be carried out, which is known or taken to concern so many items. @returns it as it is kept */
export async function saveMapping(
  database: Sequelize,
  mapping: Omit<PendingMapping, 'id' | 'moved' | 'total' | 'madeAt'>,
  now: Date,
  counted?: number,
): Promise<PendingMapping> {
  const total =
    counted ??
    (await countConcerned(database, { ...mapping, id: 0, moved: 0, total: 0, madeAt: now }))
  const kept = await row<{ id: number }>(
    database,
    `INSERT INTO mapping (edition, column_name, from_number, to_number, projects, types, to_phase, total, by_kind, by_id, made_at) VALUES ($1, $2, $3, $4, $5::int[], $6::smallint[], $7, $8, $9, $10, $11) RETURNING id`,
    [
      mapping.edition,
      mapping.column,
      mapping.from,
      mapping.to,
      mapping.projects,
      mapping.types,
      mapping.phase,
      total,
      byKinds.indexOf(mapping.author.kind),
      mapping.author.number,
      now,
    ],
  )
  return { ...mapping, id: kept.id, moved: 0, total, madeAt: now }
}

export async function finishMapping(database: Sequelize, id: number, now: Date): Promise<void> {
  await run(database, 'UPDATE mapping SET finished_at = $2 WHERE id = $1', [id, now])
}

/** At most so many items are rewritten while an edition is published; more are left to a job. */
export const atOnce = 2000

/** Carries mappings out at once, in the transaction of who made them. */
export async function rewriteNow(
  database: Sequelize,
  columns: readonly string[],
  mappings: readonly PendingMapping[],
  now: Date,
): Promise<void> {
  for (const mapping of mappings) {
    await rewriteItems(
      database,
      columns,
      mapping,
      await concernedItems(database, mapping, 2_000_000_000),
      now,
    )
    await finishMapping(database, mapping.id, now)
  }
}
