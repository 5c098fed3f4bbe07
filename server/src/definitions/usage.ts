import {
  type Holding,
  inOrder,
  isComputed,
  type MappedColumn,
  type Named,
  namesIn,
  type Usage,
} from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { fieldColumn } from '../workspace/columns.ts'
import { rows } from '../database/connect.ts'
import type { World } from '../workspace/world.ts'

interface Counted {
  readonly project_id: number
  readonly type_id: number
  readonly status_id: number
  readonly priority_id: number | null
  readonly count: number
  readonly last: Date
}

/** Everything used, with when it was last: of items in the given projects, and of what is kept and shared. */
export interface UsageCounts extends Usage {
  readonly last: Readonly<Record<string, string>>
}

/**
 * How much everything defined is used now, by items of the given projects. Options are counted for the fields named only: with
 * hundreds of fields, counting all of them each time would be too slow.
 */
export async function usageOf(
  database: Sequelize,
  world: World,
  visible: readonly number[],
  { optionsOf = [] }: { optionsOf?: readonly string[] } = {},
): Promise<UsageCounts> {
  const counted = await rows<Counted>(
    database,
    'SELECT project_id, type_id, status_id, priority_id, count(*) AS count, max(changed_at) AS last FROM item WHERE NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1, 2, 3, 4',
    [visible],
  )
  const held = new Map<string, Holding>()
  const items: Record<string, number> = {}
  const last: Record<string, string> = {}
  for (const one of counted) {
    for (const [column, domain, number] of [
      ['type', 'type', one.type_id],
      ['status', 'status', one.status_id],
      ['priority', 'priority', one.priority_id],
    ] as const) {
      const value = number === null ? undefined : world.numbers.identity(domain, number)
      if (value !== undefined) {
        hold(world, held, column, value, one)
        items[value] = (items[value] ?? 0) + one.count
        if (one.last.toISOString() > (last[value] ?? '')) last[value] = one.last.toISOString()
      }
    }
  }
  await countFields(database, world, visible, items, last)
  for (const field of optionsOf) await countOptions(database, world, visible, field, items, held)
  await countLabels(database, world, visible, items, last)
  return { items, held: [...held.values()], named: await namedBy(database, world, visible), last }
}

function hold(
  world: World,
  held: Map<string, Holding>,
  column: MappedColumn,
  value: string,
  { project_id, type_id, count }: Pick<Counted, 'project_id' | 'type_id' | 'count'>,
): void {
  const [project, type] = [
    world.numbers.identity('project', project_id)!,
    world.numbers.identity('type', type_id)!,
  ]
  const key = `${column} ${project} ${type} ${value}`
  held.set(key, { column, project, type, value, items: (held.get(key)?.items ?? 0) + count })
}

/** Fields that are filled, and when an item that holds one last changed: to ask that of all history would be costly. */
async function countFields(
  database: Sequelize,
  world: World,
  visible: readonly number[],
  items: Record<string, number>,
  last: Record<string, string>,
): Promise<void> {
  const fields = inOrder(world.document.fields)
    .filter((field) => !isComputed(field.kind))
    .map((field) => ({
      id: field.id,
      column: fieldColumn(world.numbers.of('field', field.id)!),
      several: field.kind === 'several choices' || field.kind === 'people',
    }))
  if (fields.length === 0) return
  const filled = ({ column, several }: (typeof fields)[number]): string =>
    several ? `cardinality(${column}) > 0` : `${column} IS NOT NULL`
  const [row] = await rows<Record<string, number | Date | null>>(
    database,
    `SELECT ${fields.flatMap((field) => [`count(*) FILTER (WHERE ${filled(field)}) AS ${field.column}`, `max(changed_at) FILTER (WHERE ${filled(field)}) AS ${field.column}_last`]).join(', ')} FROM item WHERE NOT deleted AND project_id = ANY($1::int[])`,
    [visible],
  )
  for (const { id, column } of fields) {
    items[id] = row![column] as number
    const used = row![`${column}_last`] as Date | null
    if (used) last[id] = used.toISOString()
  }
}

async function countOptions(
  database: Sequelize,
  world: World,
  visible: readonly number[],
  field: string,
  items: Record<string, number>,
  held: Map<string, Holding>,
): Promise<void> {
  const number = world.numbers.of('field', field)
  const kind = world.document.fields[field]?.kind
  if (number === undefined || (kind !== 'choice' && kind !== 'several choices')) return
  const column = fieldColumn(number)
  const counted = await rows<{
    project_id: number
    type_id: number
    option: number
    count: number
  }>(
    database,
    `SELECT project_id, type_id, one.option, count(*) AS count FROM item, LATERAL ${kind === 'choice' ? `(VALUES (${column}))` : `unnest(${column})`} AS one(option) WHERE one.option IS NOT NULL AND NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1, 2, 3`,
    [visible],
  )
  for (const one of counted) {
    const value = world.numbers.identity(`option:${field}`, one.option)!
    items[value] = (items[value] ?? 0) + one.count
    hold(world, held, `option:${field}`, value, one)
  }
}

/** Labels and components by items, and the families and link kinds by what they gather. */
async function countLabels(
  database: Sequelize,
  world: World,
  visible: readonly number[],
  items: Record<string, number>,
  last: Record<string, string>,
): Promise<void> {
  const families = new Map(world.labels.map((label) => [label.number, label.family]))
  for (const [column, domain] of [
    ['labels', 'label'],
    ['components', 'component'],
    ['link_kinds', 'linkKind'],
  ] as const) {
    const counted = await rows<{ one: number; count: number; last: Date }>(
      database,
      `SELECT one, count(*) AS count, max(changed_at) AS last FROM item, unnest(${column}) AS one WHERE NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1`,
      [visible],
    )
    for (const { one, count, last: used } of counted) {
      for (const id of [
        world.numbers.identity(domain, one),
        domain === 'label' ? families.get(one) : null,
      ]) {
        if (!id) continue
        items[id] = (items[id] ?? 0) + count
        if (used.toISOString() > (last[id] ?? '')) last[id] = used.toISOString()
      }
    }
  }
}

/** What is kept and names each definition. What only its owner sees counts too, without its title. */
async function namedBy(
  database: Sequelize,
  world: World,
  visible: readonly number[],
): Promise<Record<string, Named[]>> {
  const kept = await rows<{
    kind: Named['kind']
    id: string
    title: string
    content: unknown
    shared: string
    owner: string
  }>(
    database,
    `
    ${['query', 'view', 'measure', 'dashboard'].map((kind) => `SELECT '${kind}' AS kind, k.identity AS id, k.title, k.content, k.shared, p.name AS owner FROM ${kind} k JOIN person p ON p.id = k.owner_id`).join(' UNION ALL ')}
    UNION ALL SELECT 'template', identity, title, content, 'everyone', '' FROM template WHERE NOT retired AND (project_id IS NULL OR project_id = ANY($1::int[]))
    UNION ALL SELECT 'team', identity, title, content, 'everyone', '' FROM team ORDER BY title`,
    [visible],
  )
  const named: Record<string, Named[]> = {}
  for (const { kind, id, title, content, shared, owner } of kept) {
    const shown =
      shared === 'everyone' ? { kind, id, title } : { kind, id: '', title: `one of ${owner}’s own` }
    for (const name of namesIn(content, world.document)) (named[name] ??= []).push(shown)
  }
  return named
}

/** How often each move of a type was really made since a moment, as `FROM:TO`, in the projects given. */
export async function movesMade(
  database: Sequelize,
  world: World,
  visible: readonly number[],
  type: string,
  since: Date,
): Promise<Record<string, number>> {
  const made = await rows<{ before: number; status_id: number; count: number }>(
    database,
    `
    SELECT before, status_id, count(*) AS count FROM (
      SELECT status_id, valid_from, by_kind, lag(status_id) OVER (PARTITION BY id ORDER BY valid_from) AS before FROM item_state WHERE type_id = $1 AND valid_to > $2 AND project_id = ANY($3::int[])) z
    WHERE before <> status_id AND by_kind <> 2 AND valid_from >= $2 GROUP BY 1, 2`,
    [world.numbers.of('type', type) ?? -1, since, visible],
  )
  return Object.fromEntries(
    made.map(({ before, status_id, count }) => [
      `${world.numbers.identity('status', before)}:${world.numbers.identity('status', status_id)}`,
      count,
    ]),
  )
}

/** Which edition last changed each entry, by whom and when. */
export async function lastChanged(
  database: Sequelize,
): Promise<Record<string, { edition: number; at: string; by: string | null; note: string }>> {
  const found = await rows<{
    entry: string
    number: number
    at: Date
    by: string | null
    note: string
  }>(
    database,
    `
    SELECT DISTINCT ON (entry) path->>1 AS entry, e.number, e.published_at AS at, p.name AS by, e.note FROM edition e CROSS JOIN LATERAL jsonb_array_elements(e.paths) AS path LEFT JOIN person p ON p.id = e.by_id
    WHERE path->>1 IS NOT NULL ORDER BY entry, e.number DESC`,
  )
  return Object.fromEntries(
    found.map(({ entry, number, at, by, note }) => [
      entry,
      { edition: number, at: at.toISOString(), by, note },
    ]),
  )
}
