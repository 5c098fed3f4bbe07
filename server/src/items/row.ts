import { asNumber, asNumbers, asText, asTexts, elementAt } from '@bluestem/core/known'
import type { ShownChoice } from '@bluestem/core/schema'
import { instantText } from '@bluestem/core/calendar'
import {
  type Facts,
  type FactValue,
  isExact,
  phases,
  type Property,
  type ItemAnswer,
} from '@bluestem/core/queries'
import type { AuthorAnswer } from '@bluestem/core/work'
import { byKinds } from '../workspace/author.ts'
import type { World } from '../workspace/world.ts'
import { Compiler } from '../sql/condition.ts'
import { limitLeft } from '../sql/limit.ts'
import { columnOf, parentRefSql, propertySql } from '../sql/property.ts'
import type { Binds, QueryContext } from '../sql/statement.ts'

/** What names an item, and the other columns of its row by name. */
interface NamedRow {
  readonly project_id: number
  readonly number: number
  readonly [column: string]: unknown
}

/** What a list reads of an item beside the properties asked for, which stand under their handles. */
export interface ListRow extends NamedRow {
  readonly id: number
  readonly type_id: number
  readonly title: string
  readonly on_hold: boolean
  readonly state_from: Date
}

/** A state of an item; the columns of custom fields are those of the edition. */
export interface StateRow extends NamedRow {
  readonly type_id: number
  readonly status_id: number
  readonly priority_id: number | null
  readonly parent_id: number | null
  readonly title: string
  readonly phase: number
  readonly on_hold: boolean
  readonly labels: readonly number[]
  readonly link_kinds: readonly number[]
  readonly comment_count: number
  readonly deleted: boolean
  readonly by_kind: number
  readonly by_id: number | null
}

/** A state that was, with its span; it goes on where `valid_to` is no moment. */
export interface PastRow extends StateRow {
  readonly valid_from: Date
  readonly valid_to: unknown
  readonly description: string | null
}

/** The present state of an item. */
export interface ItemRow extends StateRow {
  readonly id: number
  readonly row_from: Date
  readonly held_since: Date | null
}

/** Properties that are told of every item, whatever is asked for. */
const alwaysRead: ReadonlySet<string> = new Set(['ref', 'title', 'on_hold'])

/** Which expressions a row of items is read by: a column for each property asked for. */
export function itemColumns(queryContext: QueryContext, properties: readonly Property[]) {
  return (alias: string, binds: Binds): string[] => [
    `${alias}.id`,
    `${alias}.number`,
    `${alias}.project_id`,
    `${alias}.type_id`,
    `${alias}.title`,
    `${alias}.on_hold`,
    `${alias}.${queryContext.asOf ? 'valid_from' : 'row_from'} AS state_from`,
    ...properties
      .filter(({ handle }) => !alwaysRead.has(handle))
      .map(
        (property) => `${readSql(queryContext, binds, property, alias)} AS "${property.handle}"`,
      ),
  ]
}

/** How a property is read for showing; a parent is read as its ref, where it may be seen. */
const readSql = (
  queryContext: QueryContext,
  binds: Binds,
  property: Property,
  alias: string,
): string =>
  property.handle === 'parent'
    ? parentRefSql(queryContext, binds, alias)
    : property.leftOf !== undefined
      ? `round(${limitLeft(new Compiler(queryContext, binds, alias), property.leftOf)}, 2)`
      : propertySql(queryContext, binds, property, alias)

export const refOf = (world: World, row: Pick<ItemRow, 'project_id' | 'number'>): string =>
  `${world.projects.find((project) => project.number === row.project_id)?.code ?? '?'}/${row.number}`

/** A ref, or a number as decimal text: the driver gives those with many digits as text. */
const writtenOf = (value: unknown): string =>
  typeof value === 'number' ? String(value) : asText(value)

/** A value as items hold it: choices by identity, numbers as decimal text, moments in milliseconds. */
export function valueOf(world: World, property: Property, value: unknown): FactValue {
  if (value === null || value === undefined) return property.type.kind === 'array' ? [] : null
  const { type } = property
  switch (type.kind) {
    case 'choice':
      return type.domain === 'item'
        ? writtenOf(value)
        : (world.numbers.identity(type.domain, asNumber(value)) ?? null)
    case 'array':
      return asNumbers(value).map((number) => world.numbers.identity(type.domain, number) ?? '')
    case 'timestamp':
      return value instanceof Date ? value.getTime() : Date.parse(asText(value))
    case 'number':
      return writtenOf(value)
    case 'boolean':
      return Boolean(value)
    default:
      return asText(value)
  }
}

/** A value as it travels: choices with their titles and marks, moments as RFC 3339 text, numbers as numbers. */
export function displayValue(
  world: World,
  property: Property,
  held: FactValue,
  project: string,
): unknown {
  if (held === null) return null
  const { type } = property
  switch (type.kind) {
    case 'choice':
      return type.domain === 'item'
        ? { id: held, title: held }
        : choiceShown(world, type.domain, String(held), project)
    case 'array':
      return asTexts(held).map((id) => choiceShown(world, type.domain, id, project))
    case 'timestamp':
      return instantText(asNumber(held))
    case 'number':
      return isExact(String(held)) ? Number(held) : String(held)
    default:
      return held
  }
}

/** A choice with its title of today and what its mark needs. */
export function choiceShown(
  world: World,
  domain: Parameters<World['vocabulary']['choice']>[0],
  id: string,
  project: string,
): ShownChoice {
  const choice = world.vocabulary.choice(domain, id)
  const title = choice?.title ?? id
  const { document } = world
  switch (domain) {
    case 'status':
      return { id, title, mark: document.statuses[id]?.phase ?? null }
    case 'type':
      return {
        id,
        title,
        mark: `${document.types[id]?.monogram ?? '??'}${document.types[id]?.tier ?? 0}`,
      }
    case 'priority':
      return { id, title, mark: world.vocabulary.rungOf(project, id) }
    case 'label':
      return labelled(world, id, title)
    case 'project':
      return { id, title, mark: choice?.name ?? '' }
    default:
      return { id, title }
  }
}

function labelled(world: World, id: string, title: string): ShownChoice {
  const label = world.labelOf.get(id)
  const family = label?.family ? world.document.families[label.family]?.title : undefined
  return { id, title, mark: label?.colour ?? 1, ...(family ? { family } : {}) }
}

/** An item as it travels: built-in properties by handle, custom ones under `fields`. */
export function itemOf(world: World, row: ListRow, properties: readonly Property[]): ItemAnswer {
  const project = world.numbers.identity('project', row.project_id) ?? ''
  const type = world.numbers.identity('type', row.type_id) ?? ''
  const item: Record<string, unknown> = {}
  const fields: Record<string, unknown> = {}
  for (const property of properties) {
    if (alwaysRead.has(property.handle)) continue
    const value = displayValue(
      world,
      property,
      valueOf(world, property, row[property.handle]),
      project,
    )
    if (property.builtIn) item[property.handle] = value
    else fields[property.handle] = value
  }
  return {
    ...item,
    ref: refOf(world, row),
    type: choiceShown(world, 'type', type, project),
    title: row.title,
    on_hold: row.on_hold,
    ...(properties.some((property) => !property.builtIn) ? { fields } : {}),
  }
}

/** What a state held, by handle, for the evaluator and for history in words. */
export function factsOf(world: World, row: StateRow & Pick<PastRow, 'description'>): Facts {
  const facts: Record<string, FactValue> = {
    deleted: row.deleted,
    ref: refOf(world, row),
  }
  for (const property of world.vocabulary.properties.values()) {
    const column = columnOf({ world }, property)
    if (column && property.handle !== 'phase')
      facts[property.handle] = valueOf(
        world,
        property,
        row[property.handle === 'parent' ? 'parent_ref' : column],
      )
  }
  facts['phase'] = elementAt(phases, row.phase)
  facts['description'] = row.description
  return facts
}

/** What a state held, as an item travels. */
export function itemOfFacts(world: World, facts: Facts): Record<string, unknown> {
  const fields: Record<string, unknown> = {}
  const item: Record<string, unknown> = { ref: facts['ref'], deleted: facts['deleted'] }
  for (const property of world.vocabulary.properties.values()) {
    if (!(property.handle in facts) || property.handle === 'ref') continue
    const value = displayValue(
      world,
      property,
      facts[property.handle] ?? null,
      String(facts['project']),
    )
    if (property.builtIn) item[property.handle] = value
    else fields[property.handle] = value
  }
  return { ...item, fields }
}

/** Who a state is by, as it travels. */
export function authorOf(
  world: World,
  { by_kind, by_id: number }: Pick<StateRow, 'by_kind' | 'by_id'>,
): AuthorAnswer {
  const kind = byKinds[by_kind] ?? 'program'
  if (kind === 'edition') return { kind, id: String(number), title: `Edition ${number}` }
  const person = world.people.find((person) => person.number === number)
  return {
    kind,
    id: person?.id ?? null,
    title: person?.name ?? (kind === 'program' ? 'A program' : kind),
  }
}
