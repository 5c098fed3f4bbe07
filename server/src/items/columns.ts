import { isComputed } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { row, rows, run } from '../database/connect.ts'
import type { FieldModel } from '../database/models/vocabulary.ts'
import { columnType, fieldColumn, fixedColumns } from '../workspace/columns.ts'

/** Adds what columns are missing to both tables, the present first, and makes the view of all states anew. */
export async function addColumns(
  database: Sequelize,
  all: readonly Pick<FieldModel, 'number' | 'kind'>[],
): Promise<void> {
  const fields = all.filter(({ kind }) => !isComputed(kind))
  const present = await presentColumns(database)
  const missing = fields.filter((field) => !present.has(fieldColumn(field.number)))
  // The view is left alone where it is complete: making it anew waits for everyone who reads it.
  if (missing.length === 0 && (await viewIsThere(database))) return
  const added = missing.map(
    ({ number, kind }) => `ADD COLUMN ${fieldColumn(number)} ${columnType(kind)}`,
  )
  for (const table of added.length > 0 ? ['item', 'item_version'] : [])
    await run(database, `ALTER TABLE ${table} ${added.join(', ')}`)
  const columns = [...fixedColumns, ...fields.map((field) => fieldColumn(field.number))].join(', ')
  await run(
    database,
    `DROP VIEW IF EXISTS item_state; CREATE VIEW item_state AS
    SELECT id, valid_from, valid_to, ${columns} FROM item_version
    UNION ALL
    SELECT id, row_from, 'infinity'::timestamptz(3), ${columns} FROM item`,
  )
}

async function presentColumns(database: Sequelize): Promise<ReadonlySet<string>> {
  const found = await rows<{ column_name: string }>(
    database,
    `SELECT column_name FROM information_schema.columns
    WHERE table_schema = current_schema() AND table_name = 'item'`,
  )
  return new Set(found.map((entry) => entry.column_name))
}

async function viewIsThere(database: Sequelize): Promise<boolean> {
  const view = await row<{ there: boolean }>(
    database,
    `SELECT to_regclass('item_state') IS NOT NULL AS there`,
  )
  return view.there
}
