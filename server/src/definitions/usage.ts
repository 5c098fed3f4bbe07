import { asNumber, certain } from '@bluestem/core/known'
import {
  type Holding,
  inOrder,
  hasPart,
  holdsSeveral,
  isComputed,
  type MappedColumn,
  type Named,
  namesIn,
  type Usage,
} from '@bluestem/core/definitions'
import { Op, type Sequelize } from 'sequelize'
import { fieldColumn } from '../workspace/columns.ts'
import {
  countFilled,
  countHoldings,
  countInList,
  countMoves,
  countOptions,
  type HoldingRow,
} from '../items/counts.ts'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'

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
  const counted = await countHoldings(database, visible)
  const held = new Map<string, Holding>()
  const items: Record<string, number> = {}
  const last: Record<string, string> = {}
  for (const holding of counted) {
    for (const [column, domain, number] of [
      ['type', 'type', holding.type_id],
      ['status', 'status', holding.status_id],
      ['priority', 'priority', holding.priority_id],
    ] as const) {
      const value = number === null ? undefined : world.numbers.identity(domain, number)
      if (value !== undefined) {
        hold(world, held, column, value, holding)
        items[value] = (items[value] ?? 0) + holding.count
        if (holding.last.toISOString() > (last[value] ?? ''))
          last[value] = holding.last.toISOString()
      }
    }
  }
  await countFields(database, world, visible, items, last)
  for (const field of optionsOf) await countOptionsOf(database, world, visible, field, items, held)
  await countLabels(database, world, visible, items, last)
  return { items, held: [...held.values()], named: await namedBy(database, world, visible), last }
}

function hold(
  world: World,
  held: Map<string, Holding>,
  column: MappedColumn,
  value: string,
  { project_id, type_id, count }: Pick<HoldingRow, 'project_id' | 'type_id' | 'count'>,
): void {
  const [project, type] = [
    world.numbers.identityOf('project', project_id),
    world.numbers.identityOf('type', type_id),
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
      column: fieldColumn(world.numbers.numberOf('field', field.id)),
      several: holdsSeveral(field.kind),
    }))
  if (fields.length === 0) return
  const row = await countFilled(database, fields, visible)
  for (const { id, column } of fields) {
    items[id] = asNumber(row[column])
    const used = row[`${column}_last`]
    if (used instanceof Date) last[id] = used.toISOString()
  }
}

async function countOptionsOf(
  database: Sequelize,
  world: World,
  visible: readonly number[],
  field: string,
  items: Record<string, number>,
  held: Map<string, Holding>,
): Promise<void> {
  const number = world.numbers.of('field', field)
  const kind = world.document.fields[field]?.kind
  if (number === undefined || kind === undefined || !hasPart(kind, 'options')) return
  const column = { column: fieldColumn(number), several: holdsSeveral(kind) }
  const counted = await countOptions(database, column, visible)
  for (const entry of counted) {
    const value = world.numbers.identityOf(`option:${field}`, entry.option)
    items[value] = (items[value] ?? 0) + entry.count
    hold(world, held, `option:${field}`, value, entry)
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
    const counted = await countInList(database, column, visible)
    for (const { held, count, last: used } of counted) {
      for (const id of [
        world.numbers.identity(domain, held),
        domain === 'label' ? families.get(held) : null,
      ]) {
        if (!id) continue
        items[id] = (items[id] ?? 0) + count
        if (used.toISOString() > (last[id] ?? '')) last[id] = used.toISOString()
      }
    }
  }
}

/** Something saved that names definitions. */
interface Naming {
  readonly kind: Named['kind']
  readonly id: string
  readonly title: string
  readonly content: unknown
  readonly shared: string
  readonly owner: string
}

async function savedContents(database: Sequelize): Promise<Naming[]> {
  const { dashboard, measure, person, query, view } = modelsOf(database)
  const models = { query, view, measure, dashboard }
  const contents: Naming[] = []
  for (const [kind, model] of Object.entries(models)) {
    const found = await model.findAll({ include: [{ model: person, as: 'owner' }] })
    for (const { identity, title, content, shared, owner } of found)
      contents.push({
        // These are the table’s own keys.
        kind: kind as keyof typeof models,
        id: identity,
        title,
        content,
        shared,
        owner: certain(owner, 'owner of what is saved').name,
      })
  }
  return contents
}

async function templateContents(
  database: Sequelize,
  visible: readonly number[],
): Promise<Naming[]> {
  const found = await modelsOf(database).template.findAll({
    where: { retired: false, projectId: { [Op.or]: [null, [...visible]] } },
  })
  return found.map(({ identity, title, content }) => ({
    kind: 'template',
    id: identity,
    title,
    content,
    shared: 'everyone',
    owner: '',
  }))
}

async function teamContents(database: Sequelize): Promise<Naming[]> {
  const found = await modelsOf(database).team.findAll()
  return found.map(({ identity, title, content }) => ({
    kind: 'team',
    id: identity,
    title,
    content,
    shared: 'everyone',
    owner: '',
  }))
}

/** What is kept and names each definition. What only its owner sees counts too, without its title. */
async function namedBy(
  database: Sequelize,
  world: World,
  visible: readonly number[],
): Promise<Record<string, Named[]>> {
  const saved = [
    ...(await savedContents(database)),
    ...(await templateContents(database, visible)),
    ...(await teamContents(database)),
  ].sort((a, b) => (a.title < b.title ? -1 : 1))
  const named: Record<string, Named[]> = {}
  for (const { kind, id, title, content, shared, owner } of saved) {
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
  const number = world.numbers.of('type', type) ?? -1
  const made = await countMoves(database, number, since, visible)
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
  const { edition, person } = modelsOf(database)
  const editions = await edition.findAll({
    attributes: ['number', 'note', 'publishedAt', 'paths'],
    include: [{ model: person, as: 'by' }],
    order: ['number'],
  })
  const changes = editions.flatMap(({ number, note, publishedAt, paths, by }) => {
    const change = { edition: number, at: publishedAt.toISOString(), by: by?.name ?? null, note }
    return paths.flatMap((path) => (path[1] === undefined ? [] : [[path[1], change] as const]))
  })
  // Of an entry that several editions changed, the last one stands.
  return Object.fromEntries(changes)
}
