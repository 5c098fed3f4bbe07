import { elementAt, entryOf } from '@bluestem/core/known'
import { clockRows, type LimitedRow, limitedRows } from '../items/read.ts'
import { allowedOf, clockStateOf } from '../work/clocks.ts'
import {
  anyOf,
  operationOf,
  clocksOf,
  type DefinitionsDocument,
  projectsWithLimit,
  type Touched,
} from '@bluestem/core/definitions'
import { type Condition, readCondition } from '@bluestem/core/queries'
import { clockOf, type ClockState } from '@bluestem/core/limits'
import type { Sequelize } from 'sequelize'
import { count, queryRows } from '../sql/run.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { countStatement, idsStatement } from '../sql/answers.ts'
import type { World } from '../workspace/world.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { calendarOf } from '../calendars/service.ts'

/** A change whose items are counted. */
export type CountedChange = Touched & { readonly items: number }

/** How many clocks of time limits run because of a draft, and how many of them would be past their limit at once. */
export interface ClockCounts {
  readonly running: number
  readonly late: number
}

/** More parts than this in one question are asked in several. */
const partsAtOnce = 200

/** The condition of a filter, as far as the present edition knows what it names; what a draft makes new touches nothing yet. */
function conditionOf({ world }: ActorContext, filter: unknown): Condition | undefined {
  const read = readCondition({ lang: 'cql2-json', filter, spelling: 'identity' }, world.vocabulary)
  return read.ok ? read.value : undefined
}

async function countOf(database: Sequelize, actor: ActorContext, filter: unknown): Promise<number> {
  const condition = conditionOf(actor, filter)
  if (!condition) return 0
  const queryContext = queryContextOf(actor.world, actor.person, actor.now)
  return await count(database, countStatement(queryContext, condition))
}

/** The changes of a draft with how many items each touches. */
export async function countChanges(
  database: Sequelize,
  actor: ActorContext,
  changes: readonly Touched[],
): Promise<CountedChange[]> {
  const counted: CountedChange[] = []
  for (const change of changes)
    counted.push({
      ...change,
      items: change.items ?? (await countOf(database, actor, change.filter)),
    })
  return counted
}

/** How many items changes touch together: each item once, however many of them concern it. */
export async function countTogether(
  database: Sequelize,
  actor: ActorContext,
  changes: readonly Touched[],
): Promise<number> {
  const filters = changes
    .flatMap((change) => (change.filter === undefined ? [] : [change.filter]))
    .filter((filter) => conditionOf(actor, filter) !== undefined)
  if (filters.length === 0) return Math.max(0, ...changes.map((change) => change.items ?? 0))
  const whole = anyOf(filters)
  const { op, args } = operationOf(whole)
  const parts = op === 'or' ? args : [whole]
  if (parts.length <= partsAtOnce) return await countOf(database, actor, whole)
  const found = new Set<number>()
  for (let at = 0; at < parts.length; at += partsAtOnce) {
    const condition = conditionOf(actor, {
      op: 'or',
      args: [...parts.slice(at, at + partsAtOnce), false],
    })
    const statement =
      condition &&
      idsStatement(queryContextOf(actor.world, actor.person, actor.now), condition, 'answers')
    for (const { id } of statement ? await queryRows<{ id: number }>(database, statement) : [])
      found.add(id)
  }
  return found.size
}

/** The time limits that changes of a draft concern. */
const limitsIn = (changes: readonly Touched[]): string[] => [
  ...new Set(
    changes.flatMap(({ path }) =>
      path[0] === 'limits'
        ? [elementAt(path, 1)]
        : path[0] === 'rulebooks' && path[3]?.startsWith('limit:')
          ? [path[3].slice('limit:'.length)]
          : [],
    ),
  ),
]

/** What the time limits a draft changes would say at once: clocks that run, and those of them that are past. Null where it changes none. */
export async function clocksTouched(
  database: Sequelize,
  actor: ActorContext,
  document: DefinitionsDocument,
  changes: readonly Touched[],
): Promise<ClockCounts | null> {
  const limits = limitsIn(changes).filter((limit) => document.limits[limit])
  if (limits.length === 0) return null
  const all = await Promise.all(
    limits.map(async (limit) => await clocksOfLimit(database, actor, document, limit)),
  )
  return {
    running: all.reduce((sum, clockCounts) => sum + clockCounts.running, 0),
    late: all.reduce((sum, clockCounts) => sum + clockCounts.late, 0),
  }
}

/** The items that a time limit of a document would hold for, as far as the person sees them. */
async function itemsUnder(
  database: Sequelize,
  actor: ActorContext,
  document: DefinitionsDocument,
  limit: string,
): Promise<LimitedRow[]> {
  const { world, person, now } = actor
  const projects = projectsWithLimit(document, limit).filter((project) =>
    world.projects.some((entry) => entry.id === project),
  )
  if (projects.length === 0) return []
  const condition = conditionOf({ world, person, now }, clocksOf(document, limit, projects))
  const statement =
    condition && idsStatement(queryContextOf(world, person, now), condition, 'answers')
  if (!statement) return []
  const found = await queryRows<{ id: number }>(database, statement)
  return await limitedRows(
    database,
    found.map((entry) => entry.id),
  )
}

/** The states of items, each item's in the order in which they were. */
async function livesOf(
  database: Sequelize,
  world: World,
  items: readonly LimitedRow[],
): Promise<ReadonlyMap<number, readonly ClockState[]>> {
  const states = await clockRows(
    database,
    items.map((item) => item.id),
  )
  const lives = new Map<number, ClockState[]>()
  for (const state of states) {
    const life = lives.get(state.id) ?? []
    life.push(clockStateOf(world, state))
    lives.set(state.id, life)
  }
  return lives
}

/** How many clocks a time limit would have begun, and how many of them would have passed by now. */
async function clocksOfLimit(
  database: Sequelize,
  actor: ActorContext,
  document: DefinitionsDocument,
  limit: string,
): Promise<ClockCounts> {
  const { world, now } = actor
  const items = await itemsUnder(database, actor, document, limit)
  const lives = await livesOf(database, world, items)
  const isLate = (item: LimitedRow): boolean => {
    const allowed = allowedOf(world, document, item.priority_id, item.labels)
    const calendar = calendarOf(world, world.numbers.identityOf('project', item.project_id))
    const life = lives.get(item.id) ?? []
    const definition = entryOf(document.limits, limit)
    const clock = clockOf(definition, life, allowed, now.getTime(), calendar, world.zone)
    return clock?.state === 'passed'
  }
  return { running: items.length, late: items.filter(isLate).length }
}
