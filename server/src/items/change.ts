import { firstIn } from '@bluestem/core/known'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'
import { type Author, byKinds } from '../workspace/author.ts'
import type { ItemRow } from './row.ts'
import { authorSets, derivedSets, type StateColumns, typeOfColumn } from './write.ts'

/** What becomes of one item that is there and locked by the same transaction. */
export interface ItemWrite {
  readonly id: number
  /** its ref and the number of its project, for whoever is told */
  readonly ref: string
  readonly project: number
  /** the item as it is */
  readonly row: ItemRow
  /** new values by column; columns that are not named keep theirs */
  readonly values: Readonly<Record<string, unknown>>
  /** title and description, where one of them differs */
  readonly text?: { readonly title: string; readonly description: string | null }
  /** what is said with the change */
  readonly comment?: string
  /** labels the person gave, which are offered first the next time */
  readonly labels: readonly number[]
}

/** An item that was written, and when its new state begins. */
export type WrittenItem = Pick<ItemRow, 'id' | 'row_from'>

/** A row of new values: of the columns that others change, the value an item has already. */
const recordOf = (
  { id, row, values }: ItemWrite,
  columns: readonly string[],
): Record<string, unknown> => ({
  id,
  ...Object.fromEntries(
    columns.map((column) => [column, column in values ? values[column] : row[column]]),
  ),
})

/**
 * Writes different values to many items in one statement.
 *
 * @param now the instant of the change; a state lasts at least a millisecond, so an item may get a slightly later one
 * @returns the items and when their new states begin
 */
export async function writeItems(
  database: Sequelize,
  columns: StateColumns,
  writes: readonly ItemWrite[],
  author: Author,
  now: Date,
): Promise<WrittenItem[]> {
  return writes.length === 0
    ? []
    : await writeStates<WrittenItem>(database, columns, writes, author, now, ['id', 'row_from'])
}

/** Writes one item. @returns its new state, whole */
export async function writeItem(
  database: Sequelize,
  columns: StateColumns,
  write: ItemWrite,
  author: Author,
  now: Date,
): Promise<ItemRow> {
  const told = ['id', 'row_from', ...columns.columns]
  return firstIn(await writeStates<ItemRow>(database, columns, [write], author, now, told))
}

/**
 * The states that end go into history and drive all the rest, so that no change is without its history row, its text, its comment
 * and its line in the outbox.
 *
 * @param returned the columns of the new states that are given
 */
async function writeStates<Row extends WrittenItem>(
  database: Sequelize,
  { columns, columnTypes }: StateColumns,
  writes: readonly ItemWrite[],
  author: Author,
  now: Date,
  returned: readonly string[],
): Promise<Row[]> {
  const named = new Set(writes.flatMap(({ values }) => Object.keys(values)))
  const moves = named.has('project_id')
  // The number may happen to be the same in both projects.
  const set = [...(moves ? named.add('number') : named)]
  const records = writes.map((write) => recordOf(write, set))
  const told = writes.map(({ id, ref, project, row, text, comment, labels }) => ({
    id,
    ref,
    project,
    number: row.number,
    writes_text: text !== undefined,
    title: text?.title ?? null,
    description: text?.description ?? null,
    comment: comment ?? null,
    labels,
  }))
  const list = columns.join(', ')
  const places = new Map(set.map((column) => [column, `v.${column}`]))
  const typed = set.map((column) => `${column} ${typeOfColumn(columnTypes, column)}`)
  const sets = [
    ...set.map((column) => `${column} = v.${column}`),
    ...derivedSets(places),
    ...authorSets(author),
  ]
  return await rows<Row>(
    database,
    prepared(`WITH v AS (SELECT * FROM jsonb_to_recordset($5::jsonb) AS v(${['id int', ...typed].join(', ')})),
      n AS (SELECT * FROM jsonb_to_recordset($6::jsonb)
        AS n(id int, ref text, project int, number int, writes_text boolean, title text, description text, comment text, labels int[])),
      h AS (INSERT INTO item_version (id, valid_from, valid_to, ${list})
        SELECT id, row_from, greatest($2::timestamptz(3), row_from + interval '1 millisecond'), ${list}
        FROM item WHERE id = ANY($1::int[]) RETURNING id, valid_to),
      u AS (UPDATE item i SET ${sets.join(', ')}
        FROM h JOIN v ON v.id = h.id WHERE i.id = h.id RETURNING ${returned.map((column) => `i.${column}`).join(', ')}),
      ${besides(writes, moves).join('')}
      told AS (INSERT INTO outbox (at, kind, subject, project_id)
        SELECT $2::timestamptz(3), 'item', n.ref, n.project FROM u JOIN n ON n.id = u.id
        ${moves ? alsoWhereItGoes : ''} RETURNING number)
    SELECT ${returned.join(', ')}, (SELECT pg_notify('outbox', max(number)::text)::text FROM told) FROM u`),
    [
      writes.map(({ id }) => id),
      now,
      byKinds.indexOf(author.kind),
      author.number,
      JSON.stringify(records),
      JSON.stringify(told),
    ],
  )
}

/** Items that go to another project are told there too, under the refs they have there. */
const alsoWhereItGoes = `UNION ALL SELECT $2::timestamptz(3), 'item', p.code || '/' || v.number, p.id
          FROM u JOIN v ON v.id = u.id JOIN n ON n.id = u.id JOIN project p ON p.id = v.project_id WHERE p.id <> n.project`

/** What is written beside the items, as far as any of them needs it: under which refs they were known, their texts, what was said (whoever says something hears of the item), which labels were given last. */
function besides(writes: readonly ItemWrite[], moves: boolean): string[] {
  const parts = [
    {
      needed: moves,
      sql: `moved AS (INSERT INTO moved_ref (project_id, number, item_id)
          SELECT n.project, n.number, u.id FROM u JOIN n ON n.id = u.id JOIN v ON v.id = u.id
          WHERE (v.project_id, v.number) IS DISTINCT FROM (n.project, n.number)
          ON CONFLICT (project_id, number) DO UPDATE SET item_id = excluded.item_id RETURNING item_id),`,
    },
    {
      needed: writes.some(({ text }) => text !== undefined),
      sql: `gone AS (UPDATE item_text t SET valid_to = u.row_from FROM u JOIN n ON n.id = u.id
          WHERE t.item_id = u.id AND t.valid_to = 'infinity' AND n.writes_text RETURNING t.item_id),
        text AS (INSERT INTO item_text (item_id, valid_from, title, description)
          SELECT u.id, u.row_from, n.title, n.description FROM u JOIN n ON n.id = u.id
          WHERE n.writes_text RETURNING item_id),`,
    },
    {
      needed: writes.some(({ comment }) => comment !== undefined),
      sql: `said AS (INSERT INTO comment (item_id, body, by_id, at)
          SELECT u.id, n.comment, $4::int, u.row_from FROM u JOIN n ON n.id = u.id
          WHERE n.comment IS NOT NULL RETURNING id),
        heard AS (INSERT INTO follower (item_id, person_id, since)
          SELECT u.id, $4::int, u.row_from FROM u JOIN n ON n.id = u.id
          WHERE n.comment IS NOT NULL AND $3::smallint = 0 ON CONFLICT DO NOTHING RETURNING item_id),`,
    },
    {
      needed: writes.some(({ labels }) => labels.length > 0),
      sql: `given AS (INSERT INTO label_recent (person_id, label_id, at)
          SELECT DISTINCT $4::int, label, $2::timestamptz(3) FROM n, unnest(n.labels) AS label
          ON CONFLICT (person_id, label_id) DO UPDATE SET at = excluded.at RETURNING label_id),`,
    },
  ]
  return parts.flatMap(({ needed, sql }) => (needed ? [sql] : []))
}
