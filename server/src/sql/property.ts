import { byNumber, iterationOffsetSql, releaseOffsetSql, rungSql, urgencySql } from './priority.ts'
import { rollUpSpans } from './rollUpOverTime.ts'
import { type RollUp, rollUpInPlace, rollUpOfAll } from './rollUp.ts'
import { fieldColumn } from '../workspace/columns.ts'
import { isComputed } from '@bluestem/core/definitions'
import { certain } from '@bluestem/core/known'
import {
  type ArithmeticOp,
  type Computed,
  phases,
  type Property,
  type Value,
} from '@bluestem/core/queries'
import { remappedArray } from './remapped.ts'
import type { PendingMapping } from '../workspace/mappings.ts'
import type { World } from '../workspace/world.ts'
import { beginsAt, type Binds, type QueryContext, stateOf } from './statement.ts'

/** Built-in properties that are a column of their own. */
const columns: Record<string, string> = {
  title: 'title',
  project: 'project_id',
  type: 'type_id',
  status: 'status_id',
  phase: 'phase',
  priority: 'priority_id',
  assignee: 'assignee_id',
  raised_by: 'raised_by',
  labels: 'labels',
  components: 'components',
  links: 'link_kinds',
  parent: 'parent_id',
  iteration: 'iteration_id',
  release: 'release_id',
  estimate: 'estimate',
  remaining: 'remaining',
  start: 'start_date',
  due: 'due_date',
  created: 'created_at',
  changed: 'changed_at',
  done: 'done_at',
  on_hold: 'on_hold',
  hold_reason: 'hold_reason',
  comments: 'comment_count',
  code_changes: 'code_change_count',
  position: 'position',
}

/** The column of the item's table that holds a property, or undefined where it is computed. */
export function columnOf(
  { world }: Pick<QueryContext, 'world'>,
  property: Property,
): string | undefined {
  return property.builtIn ? columns[property.handle] : fieldColumnsOf(world).get(property.handle)
}

const fieldColumns = new WeakMap<World, ReadonlyMap<string, string>>()

/** The columns of a world's fields by handle; computed ones have none. */
function fieldColumnsOf(world: World): ReadonlyMap<string, string> {
  const known = fieldColumns.get(world)
  if (known) return known
  const made = new Map(
    Object.entries(world.document.fields).flatMap(([id, { handle, kind }]): [string, string][] => {
      const number = isComputed(kind) ? undefined : world.numbers.of('field', id)
      return number === undefined ? [] : [[handle, fieldColumn(number)]]
    }),
  )
  fieldColumns.set(world, made)
  return made
}

/** The expression that gives a property of the state under an alias. */
export function propertySql(
  queryContext: QueryContext,
  binds: Binds,
  property: Property,
  alias: string,
): string {
  if (property.handle === 'parent')
    return `(SELECT up.id FROM ${stateOf(queryContext, binds, `${alias}.parent_id`, 'up')})`
  const column = columnOf(queryContext, property)
  if (column) return presentSql(queryContext, binds, column, alias)
  if (property.computed) return computedSql(queryContext, binds, property, property.computed, alias)
  switch (property.handle) {
    case 'ref':
      return refSql(alias)
    case 'description':
      return descriptionSql(queryContext, binds, alias)
    case 'tier':
      return byNumber(queryContext, binds, 'type', `${alias}.type_id`, (id) =>
        queryContext.world.vocabulary.tierOf(id),
      )
    case 'urgency':
      return urgencySql(queryContext, binds, alias)
    case 'rung':
      return rungSql(queryContext, binds, alias)
    case 'iteration_offset':
      return iterationOffsetSql(queryContext, binds, alias)
    case 'release_offset':
      return releaseOffsetSql(queryContext, binds, alias)
    default:
      throw new Error(`no expression gives the property ${property.handle}`)
  }
}

/** Of the present, texts are joined once, so that their index serves; of the past, the one that held then is looked up. */
function descriptionSql(queryContext: QueryContext, binds: Binds, alias: string): string {
  if (queryContext.asOf || binds.joined !== alias)
    return `(SELECT t.description FROM item_text t WHERE t.item_id = ${alias}.id AND t.valid_from <= ${beginsAt(queryContext, alias)} AND t.valid_to > ${beginsAt(queryContext, alias)})`
  return `${binds.join('text', (name) => ` LEFT JOIN item_text ${name} ON ${name}.item_id = ${alias}.id AND ${name}.valid_to = 'infinity'`)}.description`
}

/** A parent as its ref, where it may be seen. */
export const parentRefSql = (queryContext: QueryContext, binds: Binds, alias: string): string =>
  `(SELECT (SELECT code FROM project WHERE id = up.project_id) || '/' || up.number FROM ${stateOf(queryContext, binds, `${alias}.parent_id`, 'up')})`

/** Whether the form of an item has a computed field, which is empty where it has not: projects that follow one rulebook share a branch. */
function onFormSql(
  { world }: QueryContext,
  binds: Binds,
  { handle }: Property,
  alias: string,
): string {
  const field = Object.values(world.document.fields).some((field) => field.handle === handle)
  if (!field) return 'TRUE'
  const types = Object.keys(world.document.types)
  const branches = new Map<string, { projects: number[]; types: number[] }>()
  for (const project of world.projects) {
    const having = types
      .filter((type) => world.vocabulary.isOnForm(project.id, type, handle))
      .map((type) => world.numbers.numberOf('type', type))
    if (having.length === 0) continue
    const key = having.join(' ')
    branches.set(key, {
      types: having,
      projects: [...(branches.get(key)?.projects ?? []), project.number],
    })
  }
  const cases = [...branches.values()].map(
    (branch) =>
      `(${alias}.project_id = ANY(${binds.bind(branch.projects, 'int[]')}) AND ${alias}.type_id = ANY(${binds.bind(branch.types, 'int[]')}))`,
  )
  return cases.length === 0 ? 'FALSE' : `(${cases.join(' OR ')})`
}

/** A column as questions about the present read it: what a mapping still has to rewrite counts as its successor already. */
function presentSql(
  queryContext: QueryContext,
  binds: Binds,
  column: string,
  alias: string,
): string {
  if (queryContext.asOf) return `${alias}.${column}`
  return queryContext.world.mappings.reduce((sql, mapping) => {
    const concerned = concernedSql(queryContext, binds, mapping, alias)
    if (column === 'phase' && mapping.phase !== null)
      return `CASE WHEN ${alias}.status_id = ${binds.bind(mapping.from, 'int')}${concerned} THEN ${binds.bind(mapping.phase, 'smallint')} ELSE ${sql} END`
    if (mapping.column !== column) return sql
    if (mapping.several)
      return `CASE WHEN ${alias}.${column} @> ${binds.bind([mapping.from], 'int[]')}${concerned} THEN ${remappedArray(sql, binds.bind(mapping.from, 'int'), binds.bind(mapping.to, 'int'))} ELSE ${sql} END`
    return `CASE WHEN ${alias}.${column} = ${binds.bind(mapping.from, 'int')}${concerned} THEN ${binds.bind(mapping.to, 'int')} ELSE ${sql} END`
  }, `${alias}.${column}`)
}

/** Of which projects and types a mapping is; nothing where it is of all, for this is asked of every row. */
function concernedSql(
  { world }: QueryContext,
  binds: Binds,
  { projects, types }: PendingMapping,
  alias: string,
): string {
  const ofProjects =
    projects.length === world.whole.projects.length
      ? ''
      : ` AND ${alias}.project_id = ANY(${binds.bind(projects, 'int[]')})`
  const ofTypes =
    types.length === Object.keys(world.document.types).length
      ? ''
      : ` AND ${alias}.type_id = ANY(${binds.bind(types, 'int[]')})`
  return `${ofProjects}${ofTypes}`
}

/** A roll-up with the expression of the property that it gathers. */
export const rollUpOf = (
  queryContext: QueryContext,
  binds: Binds,
  { how, of }: Extract<Computed, { kind: 'roll-up' }>,
): RollUp => ({
  how,
  valueOf: (alias) => propertySql(queryContext, binds, certain(of, `number for a ${how}`), alias),
})

/** Scores are arithmetic in place. Roll-ups are worked out for all items in one pass where they are part of a question, and in place where a page shows them. */
function computedSql(
  queryContext: QueryContext,
  binds: Binds,
  property: Property,
  computed: Computed,
  alias: string,
): string {
  const onForm = onFormSql(queryContext, binds, property, alias)
  if (computed.kind === 'score')
    return `(CASE WHEN ${onForm} THEN ${scoreSql(queryContext, binds, computed, computed.value, alias)} END)`
  const rollUp = rollUpOf(queryContext, binds, computed)
  if (binds.overTime === alias)
    return `${alias}.${binds.spans(property.handle, () => ({
      sql: rollUpSpans(queryContext, binds, rollUp),
      applies: onFormSql(queryContext, binds, property, 's'),
    }))}`
  if (binds.joined !== alias)
    return `(CASE WHEN ${onForm} THEN ${rollUpInPlace(queryContext, binds, rollUp, alias)} END)`
  binds.onePassOnly = true
  // What is not on the form is not joined: a comparison with the value is then enough for the database to leave other items out.
  return `${binds.join(`roll-up ${property.handle}`, (name) => ` LEFT JOIN ${rollUpOfAll(queryContext, binds, rollUp, name)} ON ${name}.above = ${alias}.id AND ${onForm}`)}.value`
}

function scoreSql(
  queryContext: QueryContext,
  binds: Binds,
  score: Extract<Computed, { kind: 'score' }>,
  value: Value,
  alias: string,
): string {
  switch (value.kind) {
    case 'arithmetic':
      return arithmeticSql(
        value.op,
        scoreSql(queryContext, binds, score, value.left, alias),
        scoreSql(queryContext, binds, score, value.right, alias),
      )
    case 'literal':
      return binds.bind(value.value, 'numeric')
    case 'property': {
      const part = `${propertySql(queryContext, binds, value.property, alias)}::numeric`
      return score.empty === null
        ? part
        : `coalesce(${part}, ${binds.bind(String(score.empty), 'numeric')})`
    }
    default:
      throw new Error(`a score has no ${value.kind}`)
  }
}

/** One operation; what has no value (a division by nought, an impossible power) is unknown instead of an error. */
export function arithmeticSql(op: ArithmeticOp, a: string, b: string): string {
  switch (op) {
    case '/':
      return `(${a} / nullif(${b}, 0))`
    case '%':
      return `mod(${a}, nullif(${b}, 0))`
    case 'div':
      return `div(${a}, nullif(${b}, 0))`
    case '^':
      return `power_or_null(${a}, ${b})`
    default:
      return `(${a} ${op} ${b})`
  }
}

export const refSql = (alias: string): string =>
  `((SELECT code FROM project WHERE id = ${alias}.project_id) || '/' || ${alias}.number)`

export const phaseNumber = (phase: string): number => phases.findIndex((text) => text === phase)
