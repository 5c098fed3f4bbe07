import { fieldColumn } from '../items/columns.ts'
import { isComputed } from '@bluestem/core/definitions'
import {
  type ArithmeticOp,
  type Computed,
  type Domain,
  iterationOffset,
  phases,
  type Property,
  releaseOffset,
  type Value,
} from '@bluestem/core/queries'
import { type PendingMapping, remappedArray } from '../items/remap.ts'
import { dayOf } from '@bluestem/core/calendar'
import {
  type Asking,
  atMoment,
  beginsAt,
  type Binds,
  permitted,
  stateOf,
  stateTable,
} from './statement.ts'

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
export function columnOf(asking: Asking, property: Property): string | undefined {
  if (property.builtIn) return columns[property.handle]
  const field = Object.entries(asking.world.document.fields).find(
    ([, one]) => one.handle === property.handle,
  )
  if (field && isComputed(field[1].kind)) return undefined
  const number = field && asking.world.numbers.of('field', field[0])
  return number === undefined ? undefined : fieldColumn(number)
}

/** The expression that gives a property of the state under an alias. */
export function propertySql(
  asking: Asking,
  binds: Binds,
  property: Property,
  alias: string,
): string {
  if (property.handle === 'parent')
    return `(SELECT up.id FROM ${stateOf(asking, binds, `${alias}.parent_id`, 'up')})`
  const column = columnOf(asking, property)
  if (column) return presentSql(asking, binds, column, alias)
  if (property.computed) return computedSql(asking, binds, property, property.computed, alias)
  switch (property.handle) {
    case 'ref':
      return refSql(alias)
    case 'description':
      return descriptionSql(asking, binds, alias)
    case 'tier':
      return byNumber(asking, binds, 'type', `${alias}.type_id`, (id) =>
        asking.world.vocabulary.tierOf(id),
      )
    case 'urgency':
      return urgencySql(asking, binds, alias)
    case 'rung':
      return rungSql(asking, binds, alias)
    case 'iteration_offset':
      return offsetSql(asking, binds, 'iteration', alias)
    case 'release_offset':
      return offsetSql(asking, binds, 'release', alias)
    default:
      throw new Error(`no expression gives the property ${property.handle}`)
  }
}

/** Of the present, texts are joined once, so that their index serves; of the past, the one that held then is looked up. */
function descriptionSql(asking: Asking, binds: Binds, alias: string): string {
  if (asking.asOf || binds.joined !== alias)
    return `(SELECT t.description FROM item_text t WHERE t.item_id = ${alias}.id AND t.valid_from <= ${beginsAt(asking, alias)} AND t.valid_to > ${beginsAt(asking, alias)})`
  return `${binds.join('text', (name) => ` LEFT JOIN item_text ${name} ON ${name}.item_id = ${alias}.id AND ${name}.valid_to = 'infinity'`)}.description`
}

/** A parent as its ref, where it may be seen. */
export const parentRefSql = (asking: Asking, binds: Binds, alias: string): string =>
  `(SELECT (SELECT code FROM project WHERE id = up.project_id) || '/' || up.number FROM ${stateOf(asking, binds, `${alias}.parent_id`, 'up')})`

/** Whether the form of an item has a computed field, which is empty where it has not: projects that follow one rulebook share a branch. */
function onFormSql({ world }: Asking, binds: Binds, { handle }: Property, alias: string): string {
  const field = Object.values(world.document.fields).some((one) => one.handle === handle)
  if (!field) return 'TRUE'
  const types = Object.keys(world.document.types)
  const branches = new Map<string, { projects: number[]; types: number[] }>()
  for (const project of world.projects) {
    const having = types
      .filter((type) => world.vocabulary.isOnForm(project.id, type, handle))
      .map((type) => world.numbers.of('type', type)!)
    if (having.length === 0) continue
    const key = having.join(' ')
    branches.set(key, {
      types: having,
      projects: [...(branches.get(key)?.projects ?? []), project.number],
    })
  }
  const cases = [...branches.values()].map(
    (one) =>
      `(${alias}.project_id = ANY(${binds.bind(one.projects, 'int[]')}) AND ${alias}.type_id = ANY(${binds.bind(one.types, 'int[]')}))`,
  )
  return cases.length === 0 ? 'FALSE' : `(${cases.join(' OR ')})`
}

/** A column as questions about the present read it: what a mapping still has to rewrite counts as its successor already. */
function presentSql(asking: Asking, binds: Binds, column: string, alias: string): string {
  if (asking.asOf) return `${alias}.${column}`
  return asking.world.mappings.reduce((sql, mapping) => {
    const concerned = concernedSql(asking, binds, mapping, alias)
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
  { world }: Asking,
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

/** Scores are arithmetic in place. Roll-ups are worked out for all items in one pass where they are part of a question, and in place where a page shows them. */
function computedSql(
  asking: Asking,
  binds: Binds,
  property: Property,
  computed: Computed,
  alias: string,
): string {
  const onForm = onFormSql(asking, binds, property, alias)
  if (computed.kind === 'score')
    return `(CASE WHEN ${onForm} THEN ${scoreSql(asking, binds, computed, computed.value, alias)} END)`
  if (binds.joined !== alias)
    return `(CASE WHEN ${onForm} THEN ${rollUpInPlace(asking, binds, computed, alias)} END)`
  binds.onePassOnly = true
  // What is not on the form is not joined: a comparison with the value is then enough for the database to leave other items out.
  return `${binds.join(`roll-up ${property.handle}`, (name) => ` LEFT JOIN ${rollUpOfAll(asking, binds, computed, name)} ON ${name}.above = ${alias}.id AND ${onForm}`)}.value`
}

type RollUp = Extract<Computed, { kind: 'roll-up' }>

/** What a roll-up tells of the states under an alias. */
function rolledUp(asking: Asking, binds: Binds, { how, of }: RollUp, alias: string): string {
  if (how === 'share done')
    return shareOf(
      `count(*) FILTER (WHERE ${alias}.phase = 2)`,
      `count(*) FILTER (WHERE ${alias}.phase <> 3)`,
    )
  return `${aggregates[how]}(${propertySql(asking, binds, of!, alias)})::numeric`
}

const aggregates = { sum: 'sum', least: 'min', greatest: 'max' } as const
const shareOf = (done: string, counted: string): string =>
  `round(100.0 * ${done} / nullif(${counted}, 0), 1)`

/**
 * A roll-up of every item that has something below it, in one pass. What stands directly below is summed up first; then each of
 * these sums is carried up, a level at a time, to everything above. UNION keeps each carrying once, so that a circle of parents ends.
 * OFFSET keeps the database from looking up each edge by its id, which takes longer than reading them all.
 */
function rollUpOfAll(asking: Asking, binds: Binds, computed: RollUp, name: string): string {
  const states = `${stateTable(asking)} c WHERE c.parent_id IS NOT NULL${atMoment(asking, binds, 'c')} AND ${permitted(asking, binds, 'c')}`
  const share = computed.how === 'share done'
  const directly = share
    ? 'count(*) FILTER (WHERE c.phase = 2) AS done, count(*) FILTER (WHERE c.phase <> 3) AS counted'
    : `${rolledUp(asking, binds, computed, 'c')} AS value`
  const carried = share ? ['done', 'counted'] : ['value']
  const whole =
    computed.how === 'share done'
      ? shareOf('sum(done)', 'sum(counted)')
      : `${aggregates[computed.how]}(value)`
  return `(WITH RECURSIVE direct AS MATERIALIZED (SELECT c.parent_id AS above, ${directly} FROM ${states} GROUP BY c.parent_id),
      edge AS MATERIALIZED (SELECT id, parent_id FROM (SELECT c.id, c.parent_id FROM ${states} OFFSET 0) below WHERE id IN (SELECT above FROM direct)),
      carried (origin, above, ${carried.join(', ')}) AS (SELECT above, above, ${carried.join(', ')} FROM direct UNION SELECT l.origin, e.parent_id, ${carried.map((part) => `l.${part}`).join(', ')} FROM carried l JOIN edge e ON e.id = l.above)
    SELECT above, ${whole} AS value FROM carried GROUP BY above) ${name}`
}

/** A roll-up of one item: what stands below it, a level at a time, each item once. */
function rollUpInPlace(asking: Asking, binds: Binds, computed: RollUp, alias: string): string {
  const child = (of: string): string =>
    `SELECT c.id FROM ${stateTable(asking)} c WHERE c.parent_id = ${of}${atMoment(asking, binds, 'c')} AND ${permitted(asking, binds, 'c')}`
  return `(WITH RECURSIVE below (id) AS (${child(`${alias}.id`)} UNION SELECT c.id FROM below b, LATERAL (${child('b.id')}) c)
    SELECT ${rolledUp(asking, binds, computed, 'd')} FROM below JOIN ${stateTable(asking)} d ON d.id = below.id${atMoment(asking, binds, 'd')})`
}

function scoreSql(
  asking: Asking,
  binds: Binds,
  score: Extract<Computed, { kind: 'score' }>,
  value: Value,
  alias: string,
): string {
  switch (value.kind) {
    case 'arithmetic':
      return arithmeticSql(
        value.op,
        scoreSql(asking, binds, score, value.left, alias),
        scoreSql(asking, binds, score, value.right, alias),
      )
    case 'literal':
      return binds.bind(value.value, 'numeric')
    case 'property': {
      const part = `${propertySql(asking, binds, value.property, alias)}::numeric`
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

/** A CASE from the small number of a choice to what follows from it today; unknown where nothing does. */
function byNumber(
  asking: Asking,
  binds: Binds,
  domain: 'type' | 'priority' | 'iteration' | 'release',
  column: string,
  valueOf: (id: string) => number | null,
): string {
  const cases = asking.world.vocabulary.choices(domain).flatMap(({ id }) => {
    const value = valueOf(id)
    const number = asking.world.numbers.of(domain, id)
    return value === null || number === undefined
      ? []
      : [`WHEN ${binds.bind(number, 'int')} THEN ${binds.bind(String(value), 'numeric')}`]
  })
  return cases.length === 0 ? 'NULL::numeric' : `CASE ${column} ${cases.join(' ')} END`
}

const urgencySql = (asking: Asking, binds: Binds, alias: string): string =>
  byNumber(asking, binds, 'priority', `${alias}.priority_id`, (id) =>
    asking.world.vocabulary.urgencyOf(id),
  )

/** Projects that follow one ladder share a branch. */
function rungSql(asking: Asking, binds: Binds, alias: string): string {
  const { vocabulary, projects } = asking.world
  const ladders = new Map<string, number[]>()
  for (const project of projects) {
    const rungs = JSON.stringify(
      vocabulary.choices('priority').map(({ id }) => vocabulary.rungOf(project.id, id)),
    )
    ladders.set(rungs, [...(ladders.get(rungs) ?? []), project.number])
  }
  const branch = ([first]: number[]): string =>
    byNumber(asking, binds, 'priority', `${alias}.priority_id`, (id) =>
      vocabulary.rungOf(projects.find((project) => project.number === first)!.id, id),
    )
  if (ladders.size === 1) return branch([...ladders.values()][0]!)
  return `CASE ${[...ladders.values()].map((numbers) => `WHEN ${alias}.project_id = ANY(${binds.bind(numbers, 'int[]')}) THEN ${branch(numbers)}`).join(' ')} END`
}

function offsetSql(
  asking: Asking,
  binds: Binds,
  domain: 'iteration' | 'release',
  alias: string,
): string {
  const { vocabulary, zone } = asking.world
  const today = dayOf(asking.moment, zone)
  return byNumber(asking, binds, domain, `${alias}.${domain}_id`, (id) =>
    domain === 'iteration'
      ? iterationOffset(vocabulary.iterations, id, today)
      : releaseOffset(vocabulary.releases, id, today),
  )
}

/** One expression to sort by, with the type of its value, in which the last row of a page comes back. */
export interface SortExpression {
  readonly sql: string
  readonly type: 'text' | 'int' | 'numeric' | 'date' | 'timestamptz' | 'boolean'
}

const collated = (sql: string): SortExpression => ({
  sql: `${sql} COLLATE "und-x-icu"`,
  type: 'text',
})
const placed = (sql: string): SortExpression => ({ sql, type: 'int' })

/** Where a property's value stands in its defined order: the expressions to sort by, one after the other. */
export function sortSql(
  asking: Asking,
  binds: Binds,
  property: Property,
  alias: string,
): SortExpression[] {
  if (property.handle === 'ref')
    return [
      collated(`(SELECT code FROM project WHERE id = ${alias}.project_id)`),
      placed(`${alias}.number`),
    ]
  if (property.handle === 'parent') {
    const parent = stateOf(asking, binds, `${alias}.parent_id`, 'up')
    return [
      collated(`(SELECT (SELECT code FROM project WHERE id = up.project_id) FROM ${parent})`),
      placed(`(SELECT up.number FROM ${parent})`),
    ]
  }
  const value = propertySql(asking, binds, property, alias)
  if (property.handle === 'priority')
    return [
      { sql: rungSql(asking, binds, alias), type: 'numeric' },
      { sql: urgencySql(asking, binds, alias), type: 'numeric' },
      placed(`(SELECT sort FROM priority WHERE number = ${value})`),
    ]
  if (property.handle === 'position') return [{ sql: value, type: 'text' }]
  const { type } = property
  switch (type.kind) {
    case 'text':
      return [collated(value)]
    case 'array':
      return [
        placed(
          `(SELECT min(array_position(${binds.bind(ordered(asking, type.domain), 'int[]')}, one)) FROM unnest(${value}) one)`,
        ),
      ]
    case 'choice':
      return [choicePlace(asking, binds, type.domain, value)]
    case 'number':
      return [{ sql: value, type: 'numeric' }]
    case 'timestamp':
      return [{ sql: value, type: 'timestamptz' }]
    case 'date':
    case 'boolean':
      return [{ sql: value, type: type.kind }]
    case 'interval':
      throw new Error('nothing is sorted by an interval')
  }
}

function choicePlace(asking: Asking, binds: Binds, domain: Domain, value: string): SortExpression {
  if (domain === 'phase') return placed(value)
  const table =
    { status: 'status', type: 'item_type' }[domain as string] ??
    (domain.startsWith('option:') ? 'field_option' : undefined)
  if (table) return placed(`(SELECT sort FROM ${table} WHERE number = ${value})`)
  if (domain === 'person')
    return {
      sql: `(SELECT name COLLATE "und-x-icu" FROM person WHERE id = ${value})`,
      type: 'text',
    }
  return placed(`array_position(${binds.bind(ordered(asking, domain), 'int[]')}, ${value}::int)`)
}

const ordered = (
  asking: Asking,
  domain: Parameters<typeof asking.world.vocabulary.choices>[0],
): number[] =>
  asking.world.vocabulary
    .choices(domain)
    .flatMap(({ id }) => asking.world.numbers.of(domain, id) ?? [])

export const phaseNumber = (phase: string): number =>
  phases.indexOf(phase as (typeof phases)[number])
