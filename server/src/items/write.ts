import { type Author, byKinds } from '../workspace/author.ts'
import type { Sequelize } from 'sequelize'
import type { World } from '../workspace/world.ts'
import { row, rows } from '../database/connect.ts'

/** New values by column; columns that are not named keep theirs. */
export type ColumnValues = Readonly<Record<string, unknown>>

/** The columns of a state, and what those that a change may set are made of. */
export type StateColumns = Pick<World, 'columns' | 'columnTypes'>

/**
 * The versioned write of the same values to all of several items. One statement moves the states that end into history and sets the
 * new ones, driven by what it moved, so that no change is without its history row.
 *
 * @param now the instant of the change; a state lasts at least a millisecond, so an item may get a slightly later one
 * @returns the id and the new `row_from` of every item that was changed
 */
export async function changeItems(
  database: Sequelize,
  { columns, columnTypes }: StateColumns,
  ids: readonly number[],
  values: ColumnValues,
  author: Author,
  now: Date,
): Promise<{ id: number; row_from: Date }[]> {
  const bind: unknown[] = [ids, now, byKinds.indexOf(author.kind), author.number]
  const places = new Map<string, string>()
  const sets = Object.entries(values).map(([column, value]) => {
    const place = `$${bind.push(value)}::${typeOfColumn(columnTypes, column)}`
    places.set(column, place)
    return `${column} = ${place}`
  })
  return await writeVersions(database, columns, [...sets, ...derivedSets(places)], bind, author)
}

/** What a column that a change sets is made of. @throws Error for one that no change sets, which is a defect */
export function typeOfColumn(types: StateColumns['columnTypes'], column: string): string {
  const type = types.get(column)
  if (type === undefined) throw new Error(`no change sets a column ${column}`)
  return type
}

/** What follows from values that are set, whose expressions are given by column. */
export function derivedSets(places: ReadonlyMap<string, string>): string[] {
  const phase = places.get('phase')
  const onHold = places.get('on_hold')
  const sets = [
    ...(phase === undefined ? [] : phaseSets(phase)),
    ...(onHold === undefined
      ? []
      : [
          `held_since = CASE WHEN NOT ${onHold} THEN NULL ELSE coalesce(i.held_since, h.valid_to) END`,
        ]),
  ]
  // What is set itself, as it is where a change is taken back, does not follow.
  return sets.filter((set) => !places.has(set.slice(0, set.indexOf(' '))))
}

/** The versioned write itself: `sets` over `i` (the item) and `h` (its state that went to history); $1 to $4 are ids, instant, kind and number of the author. */
export async function writeVersions(
  database: Sequelize,
  columns: readonly string[],
  sets: readonly string[],
  bind: readonly unknown[],
  author: Author,
): Promise<{ id: number; row_from: Date }[]> {
  const list = columns.join(', ')
  return await rows(
    database,
    `
    WITH o AS (SELECT id, row_from, ${list} FROM item WHERE id = ANY($1::int[]) ORDER BY id FOR UPDATE),
      h AS (INSERT INTO item_version (id, valid_from, valid_to, ${list})
        SELECT id, row_from, greatest($2::timestamptz(3), row_from + interval '1 millisecond'), ${list} FROM o RETURNING id, valid_to)
    UPDATE item i SET ${[...sets, ...authorSets(author)].join(', ')}
    FROM h WHERE i.id = h.id RETURNING i.id, i.row_from`,
    bind,
  )
}

/** When a state begins and who made it; a change that nobody made to the item itself leaves `changed` alone. */
export const authorSets = ({ kind }: Author): string[] => [
  'row_from = h.valid_to',
  ...(kind === 'edition' || kind === 'merge' ? [] : ['changed_at = h.valid_to']),
  'by_kind = $3::smallint',
  'by_id = $4::int',
]

/** What follows from entering a phase: 1 is active, 2 is done. */
export const phaseSets = (phase: string): string[] => [
  `first_active_at = CASE WHEN ${phase} = 1 THEN coalesce(i.first_active_at, h.valid_to) ELSE i.first_active_at END`,
  `first_done_at = CASE WHEN ${phase} = 2 THEN coalesce(i.first_done_at, h.valid_to) ELSE i.first_done_at END`,
  `done_at = CASE WHEN ${phase} <> 2 THEN NULL WHEN i.phase = 2 THEN i.done_at ELSE h.valid_to END`,
]

/** Makes one item, whose first state begins now. @returns its id */
export async function makeItem(
  database: Sequelize,
  { columnTypes }: StateColumns,
  values: ColumnValues,
  author: Author,
  now: Date,
): Promise<number> {
  const all: Record<string, unknown> = {
    ...values,
    by_kind: byKinds.indexOf(author.kind),
    by_id: author.number,
    row_from: now,
    created_at: now,
    changed_at: now,
  }
  const phase = values['phase']
  if (phase === 1) all['first_active_at'] = now
  if (phase === 2) Object.assign(all, { first_done_at: now, done_at: now })
  if (values['on_hold'] === true) all['held_since'] = now
  const names = Object.keys(all)
  const places = names.map((name, index) => {
    const type = columnTypes.get(name)
    return type === undefined ? `$${index + 1}` : `$${index + 1}::${type}`
  })
  const made = await row<{ id: number }>(
    database,
    `INSERT INTO item (${names.join(', ')}) VALUES (${places.join(', ')}) RETURNING id`,
    Object.values(all),
  )
  return made.id
}

/** Keeps title and description with the span in which they held; writes only when a text changed. */
export async function saveText(
  database: Sequelize,
  id: number,
  title: string,
  description: string | null,
  at: Date,
): Promise<void> {
  await rows(
    database,
    `WITH gone AS (UPDATE item_text SET valid_to = $4 WHERE item_id = $1 AND valid_to = 'infinity' AND (title, description) IS DISTINCT FROM ($2, $3) RETURNING item_id)
    INSERT INTO item_text (item_id, valid_from, title, description) SELECT $1, $4, $2, $3 WHERE EXISTS (SELECT FROM gone) OR NOT EXISTS (SELECT FROM item_text WHERE item_id = $1) RETURNING item_id`,
    [id, title, description, at],
  )
}
