import {
  anyOf,
  clocksOf,
  type DefinitionsDocument,
  projectsWithLimit,
  type Touched,
} from '@bluestem/core/definitions'
import { type Condition, readQuery } from '@bluestem/core/queries'
import { clockOf, type ClockState } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { count } from '../queries/answers.ts'
import { askingOf } from '../sql/asking.ts'
import { countStatement, idsStatement } from '../sql/answers.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { calendarOf } from '../calendars/service.ts'

/** A change whose items are counted. */
export type CountedChange = Touched & { readonly items: number }

/** How many clocks of time limits run because of a draft, and how many of them would be past their limit at once. */
export interface Clocks {
  readonly running: number
  readonly late: number
}

/** More parts than this in one question are asked in several. */
const partsAtOnce = 200

/** The condition of a filter, as far as the present edition knows what it names; what a draft makes new touches nothing yet. */
function conditionOf({ world }: ActorContext, filter: unknown): Condition | undefined {
  const read = readQuery({ lang: 'cql2-json', filter, spelling: 'identity' }, world.vocabulary)
  return read.ok ? read.value.condition : undefined
}

async function countOf(
  database: Sequelize,
  acting: ActorContext,
  filter: unknown,
): Promise<number> {
  const condition = conditionOf(acting, filter)
  if (!condition) return 0
  const asking = askingOf(acting.world, acting.person, acting.now)
  return await count(database, countStatement(asking, condition))
}

/** The changes of a draft with how many items each touches. */
export async function countChanges(
  database: Sequelize,
  acting: ActorContext,
  changes: readonly Touched[],
): Promise<CountedChange[]> {
  const counted: CountedChange[] = []
  for (const change of changes)
    counted.push({
      ...change,
      items: change.items ?? (await countOf(database, acting, change.filter)),
    })
  return counted
}

/** How many items changes touch together: each item once, however many of them concern it. */
export async function countTogether(
  database: Sequelize,
  acting: ActorContext,
  changes: readonly Touched[],
): Promise<number> {
  const filters = changes
    .flatMap((change) => (change.filter === undefined ? [] : [change.filter]))
    .filter((filter) => conditionOf(acting, filter) !== undefined)
  if (filters.length === 0) return Math.max(0, ...changes.map((change) => change.items ?? 0))
  const whole = anyOf(filters) as { op?: string; args?: readonly unknown[] }
  const parts = whole.op === 'or' ? whole.args! : [whole]
  if (parts.length <= partsAtOnce) return await countOf(database, acting, whole)
  const found = new Set<number>()
  for (let at = 0; at < parts.length; at += partsAtOnce) {
    const condition = conditionOf(acting, {
      op: 'or',
      args: [...parts.slice(at, at + partsAtOnce), false],
    })
    const statement =
      condition &&
      idsStatement(askingOf(acting.world, acting.person, acting.now), condition, 'answers')
    for (const { id } of statement
      ? await rows<{ id: number }>(database, statement.sql, statement.bind)
      : [])
      found.add(id)
  }
  return found.size
}

/** The time limits that changes of a draft concern. */
const limitsIn = (changes: readonly Touched[]): string[] => [
  ...new Set(
    changes.flatMap(({ path }) =>
      path[0] === 'limits'
        ? [path[1]!]
        : path[0] === 'rulebooks' && path[3]?.startsWith('limit:')
          ? [path[3].slice('limit:'.length)]
          : [],
    ),
  ),
]

/** What the time limits a draft changes would say at once: clocks that run, and those of them that are past. Null where it changes none. */
export async function clocksTouched(
  database: Sequelize,
  acting: ActorContext,
  document: DefinitionsDocument,
  changes: readonly Touched[],
): Promise<Clocks | null> {
  const limits = limitsIn(changes).filter((limit) => document.limits[limit])
  if (limits.length === 0) return null
  const all = await Promise.all(
    limits.map(async (limit) => await clocksOfLimit(database, acting, document, limit)),
  )
  return {
    running: all.reduce((sum, one) => sum + one.running, 0),
    late: all.reduce((sum, one) => sum + one.late, 0),
  }
}

async function clocksOfLimit(
  database: Sequelize,
  { world, person, now }: ActorContext,
  document: DefinitionsDocument,
  limit: string,
): Promise<Clocks> {
  const projects = projectsWithLimit(document, limit).filter((project) =>
    world.projects.some((one) => one.id === project),
  )
  const condition =
    projects.length === 0
      ? undefined
      : conditionOf({ world, person, now }, clocksOf(document, limit, projects))
  const statement = condition && idsStatement(askingOf(world, person, now), condition, 'answers')
  const ids = statement
    ? (await rows<{ id: number }>(database, statement.sql, statement.bind)).map((one) => one.id)
    : []
  const items = await rows<{
    id: number
    project_id: number
    priority_id: number | null
    labels: number[]
  }>(database, 'SELECT id, project_id, priority_id, labels FROM item WHERE id = ANY($1::int[])', [
    ids,
  ])
  const states = await rows<{ id: number; valid_from: Date; status_id: number; on_hold: boolean }>(
    database,
    'SELECT id, valid_from, status_id, on_hold FROM item_state WHERE id = ANY($1::int[]) ORDER BY id, valid_from',
    [ids],
  )
  const lives = new Map<number, typeof states>()
  for (const state of states) lives.set(state.id, [...(lives.get(state.id) ?? []), state])
  const late = items.filter((item) => {
    const priority =
      item.priority_id === null ? null : world.numbers.identity('priority', item.priority_id)!
    const allowed = {
      priority,
      urgency: priority === null ? null : (document.priorities[priority]?.urgency ?? null),
      labels: item.labels.map((number) => world.numbers.identity('label', number)!),
    }
    const life = (lives.get(item.id) ?? []).map(
      ({ valid_from, status_id, on_hold }): ClockState => ({
        from: valid_from.getTime(),
        status: world.numbers.identity('status', status_id)!,
        onHold: on_hold,
      }),
    )
    return (
      clockOf(
        document.limits[limit]!,
        life,
        allowed,
        now.getTime(),
        calendarOf(world, world.numbers.identity('project', item.project_id)!),
        world.zone,
      )?.state === 'passed'
    )
  })
  return { running: items.length, late: late.length }
}
