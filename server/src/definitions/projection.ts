import {
  type DefinitionsDocument,
  type FieldKind,
  inOrder,
  isComputed,
  type Ordered,
} from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { columnTypes, fieldColumn, fixedColumns, type StoredKind } from '../workspace/columns.ts'
import { rows, run } from '../database/connect.ts'

/**
 * Writes the tables that project a document: a number for every identity, which is never used again, and a column for every field.
 * Entries that are no longer in the document keep their row, for history names them. Runs inside the publishing transaction.
 */
export async function project(database: Sequelize, document: DefinitionsDocument): Promise<void> {
  await keep(
    database,
    'item_type',
    inOrder(document.types).map((type) => [type.id, type.title]),
  )
  const statuses = inOrder(document.statuses).sort(
    (a, b) => phases.indexOf(a.phase) - phases.indexOf(b.phase),
  )
  await keep(
    database,
    'status',
    statuses.map((status) => [status.id, status.title, phases.indexOf(status.phase)]),
    ['phase'],
  )
  await keep(
    database,
    'priority',
    priorities(document).map((id) => [id, document.priorities[id]!.title]),
  )
  await keep(
    database,
    'family',
    inOrder(document.families).map((family) => [family.id, family.title, family.pick]),
    ['pick'],
  )
  await keep(
    database,
    'link_kind',
    inOrder(document.linkKinds).map((kind) => [kind.id, kind.title]),
  )
  await keep(
    database,
    'field',
    inOrder(document.fields).map((field) => [field.id, field.title, field.handle, field.kind]),
    ['handle', 'kind'],
  )
  const fields = await rows<{ number: number; identity: string; kind: FieldKind }>(
    database,
    'SELECT number, identity, kind FROM field ORDER BY number',
  )
  const numbers = new Map(fields.map((field) => [field.identity, field.number]))
  await keep(
    database,
    'field_option',
    inOrder(document.fields).flatMap((field) =>
      inOrder(field.options ?? {}).map((option) => [
        option.id,
        option.title,
        numbers.get(field.id)!,
      ]),
    ),
    ['field_number'],
  )
  await addColumns(database, fields)
}

function priorities(document: DefinitionsDocument): string[] {
  const byRung = inOrder(document.ladders).flatMap((ladder) =>
    inOrder<Ordered>(ladder.rungs).map((rung) => rung.id),
  )
  return [
    ...new Set([...byRung, ...inOrder(document.priorities).map((priority) => priority.id)]),
  ].filter((id) => document.priorities[id])
}

async function keep(
  database: Sequelize,
  table: string,
  entries: readonly (readonly unknown[])[],
  more: readonly string[] = [],
): Promise<void> {
  const names = ['identity', 'title', ...more]
  // One statement a table: an edition holds back every writer while it is published.
  const types: Record<string, string> = { phase: 'smallint', field_number: 'int' }
  const list = entries.map((entry, sort) =>
    Object.fromEntries<unknown>([
      ...names.map((name, index) => [name, entry[index]] as const),
      ['sort', sort],
    ]),
  )
  await run(
    database,
    `INSERT INTO ${table} (${names.join(', ')}, sort) SELECT ${names.join(', ')}, sort FROM jsonb_to_recordset($1::jsonb) AS one(${names.map((name) => `${name} ${types[name] ?? 'text'}`).join(', ')}, sort int) ORDER BY sort
    ON CONFLICT (identity) DO UPDATE SET ${names
      .slice(1)
      .map((name) => `${name} = excluded.${name}`)
      .join(', ')}, sort = excluded.sort`,
    [JSON.stringify(list)],
  )
}

/** Adds what columns are missing to both tables, the present first, and makes the view of all states anew. */
async function addColumns(
  database: Sequelize,
  all: readonly { number: number; kind: FieldKind }[],
): Promise<void> {
  const fields = all.filter(
    (field): field is { number: number; kind: StoredKind } => !isComputed(field.kind),
  )
  const present = new Set(
    (
      await rows<{ column_name: string }>(
        database,
        `SELECT column_name FROM information_schema.columns WHERE table_schema = current_schema() AND table_name = 'item'`,
      )
    ).map((one) => one.column_name),
  )
  const missing = fields.filter((field) => !present.has(fieldColumn(field.number)))
  const [view] = await rows<{ there: boolean }>(
    database,
    `SELECT to_regclass('item_state') IS NOT NULL AS there`,
  )
  // The view is left alone where it is complete: making it anew waits for everyone who reads it.
  if (missing.length === 0 && view!.there) return
  for (const table of missing.length > 0 ? ['item', 'item_version'] : []) {
    await run(
      database,
      `ALTER TABLE ${table} ${missing.map((field) => `ADD COLUMN ${fieldColumn(field.number)} ${columnTypes[field.kind]}`).join(', ')}`,
    )
  }
  const columns = [...fixedColumns, ...fields.map((field) => fieldColumn(field.number))].join(', ')
  await run(
    database,
    `DROP VIEW IF EXISTS item_state; CREATE VIEW item_state AS
    SELECT id, valid_from, valid_to, ${columns} FROM item_version UNION ALL SELECT id, row_from, 'infinity'::timestamptz(3), ${columns} FROM item`,
  )
}
