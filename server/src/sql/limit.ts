import { type Day, dayOf, workedOver, type WorkingTime } from '@bluestem/core/calendar'
import type { LimitedProjects } from '@bluestem/core/limits'
import { urgencySql } from './priority.ts'
import type { QueryContext } from './statement.ts'
import { past } from './past.ts'
import type { ItemCompiler } from './itemCompiler.ts'

const nothing = 'NULL::numeric'

/** How many years back clocks are counted: what an item waited before is not. */
const yearsBack = 12

/**
 * Working hours that are left of a time limit, by the same rules as `hoursLeft` of the core: a clock begins with the first starting
 * status, ends with the first ending one after that, and counts what was worked by the calendar of the item in between, but on hold
 * and in stopping statuses.
 */
export function limitLeft(compiler: ItemCompiler, id: string): string {
  const limit = compiler.queryContext.world.vocabulary.limits.get(id)
  if (!limit || limit.projects.size === 0) return nothing
  const { binds, alias } = compiler
  const { numbers } = compiler.queryContext.world
  const projects = [...limit.projects].flatMap((project) => numbers.of('project', project) ?? [])
  const ends = statusesSql(compiler, limit.ends)
  const starts = limit.starts?.length
    ? ` AND h.status_id = ANY(${statusesSql(compiler, limit.starts)})`
    : ''
  const first = (more: string): string =>
    `(SELECT min(h.valid_from) FROM item_state h WHERE ${past(compiler)}${more})`
  // An item in an ending status has no clock that runs, and most of all items are in one.
  return `(CASE WHEN ${alias}.project_id = ANY(${binds.bind(projects, 'int[]')}) AND ${alias}.status_id <> ALL(${ends}) THEN
    (SELECT CASE WHEN ${first(` AND h.valid_from >= c.began AND h.status_id = ANY(${ends})`)} IS NULL
      THEN (c.allowed * 60000 - ${usedSql(compiler, limit)})::numeric / 3600000 END
    FROM (SELECT ${allowedSql(compiler, limit)} AS allowed, ${first(starts)} AS began, ${calendarSql(compiler)} AS calendar) c
    WHERE c.allowed IS NOT NULL AND c.began IS NOT NULL) END)`
}

const statusesSql = ({ binds, queryContext }: ItemCompiler, statuses: readonly string[]): string =>
  binds.bind(
    statuses.flatMap((status) => queryContext.world.numbers.of('status', status) ?? []),
    'int[]',
  )

/** The minutes that a limit allows: those of the first allowance that fits. */
function allowedSql(compiler: ItemCompiler, { allowances }: LimitedProjects): string {
  const { binds, alias, queryContext } = compiler
  const number = (domain: 'priority' | 'label', id: string): string =>
    binds.bind(queryContext.world.numbers.of(domain, id) ?? -1, 'int')
  const cases = allowances.map(({ urgency, priority, label, minutes }) => {
    const asked = [
      'TRUE',
      ...(urgency === undefined
        ? []
        : [`${urgencySql(queryContext, binds, alias)} = ${binds.bind(urgency, 'int')}`]),
      ...(priority === undefined ? [] : [`${alias}.priority_id = ${number('priority', priority)}`]),
      ...(label === undefined ? [] : [`${alias}.labels @> ARRAY[${number('label', label)}]`]),
    ]
    return `WHEN ${asked.join(' AND ')} THEN ${binds.bind(minutes, 'bigint')}`
  })
  return `CASE ${cases.join(' ')} END`
}

/** Every calendar by which clocks run; an item names its own by its place here. */
const calendarsOf = ({ world }: QueryContext): WorkingTime[] => [
  ...new Set([
    ...world.vocabulary.teams.flatMap(({ working, remit }) => (working && remit ? [working] : [])),
    ...world.projects.map(({ id }) => world.vocabulary.workingOf(id)),
  ]),
]

/** The place of the calendar by which an item's clocks run: of the first team that has it in its remit, else of its project. */
function calendarSql(compiler: ItemCompiler): string {
  const { queryContext, binds, alias } = compiler
  const { vocabulary, projects } = queryContext.world
  const calendars = calendarsOf(queryContext)
  const place = (working: WorkingTime): string => binds.bind(calendars.indexOf(working), 'int')
  const ofTeams = vocabulary.teams.flatMap(({ working, remit }) =>
    working && remit
      ? [`WHEN coalesce(${compiler.condition(remit)}, FALSE) THEN ${place(working)}`]
      : [],
  )
  const ofProjects = calendars.flatMap((working) => {
    const own = projects.filter(({ id }) => vocabulary.workingOf(id) === working)
    const numbers = binds.bind(
      own.map(({ number }) => number),
      'int[]',
    )
    return own.length === 0
      ? []
      : [`WHEN ${alias}.project_id = ANY(${numbers}) THEN ${place(working)}`]
  })
  return `CASE ${[...ofTeams, ...ofProjects].join(' ')} END`
}

/** The milliseconds that a clock has counted since it began. */
function usedSql(compiler: ItemCompiler, limit: LimitedProjects): string {
  const { queryContext, binds } = compiler
  const until = `least(h.valid_to, ${binds.instant(queryContext.moment)})`
  const cases = calendarsOf(queryContext).map((working, at) => {
    const worked = workedSql(compiler, working)
    return `WHEN ${binds.bind(at, 'int')} THEN ${worked(until)} - ${worked('h.valid_from')}`
  })
  const stops = statusesSql(compiler, limit.stops ?? [])
  return `(SELECT coalesce(sum(CASE c.calendar ${cases.join(' ')} END), 0) FROM item_state h
    WHERE ${past(compiler)} AND h.valid_from >= c.began AND NOT h.on_hold AND h.status_id <> ALL(${stops}))`
}

const minute = 60_000

/** What was worked by a calendar up to an instant, in milliseconds. It stands in place, for a function of the database would be called anew for every state. */
function workedSql(
  { binds, queryContext }: ItemCompiler,
  working: WorkingTime,
): (instant: string) => string {
  const { zone } = queryContext.world
  const lists = workedInYears(dayOf(queryContext.moment, zone), working, zone)
  const [begins, before] = [lists.begins, lists.before].map((list) => binds.bind(list, 'int[]'))
  return (instant) => {
    const at = `(extract(epoch FROM ${instant}) * 1000)::bigint`
    const place = `width_bucket(div(${at}, ${minute})::int, ${begins})`
    const lasts = `(${before})[${place} + 1] - (${before})[${place}]`
    return `coalesce((${before})[${place}] * ${minute}::bigint + least(${at} - (${begins})[${place}] * ${minute}::bigint, (${lasts}) * ${minute}::bigint), 0)`
  }
}

/**
 * Working time as lists that the database reads, in minutes: when stretches begin, since 1970, and how much was worked before each,
 * with one more at the end, so that two beside each other tell how long one lasts.
 */
interface WorkedLists {
  readonly year: number
  readonly zone: string
  readonly begins: string
  readonly before: string
}
const written = new WeakMap<WorkingTime, WorkedLists>()

const inMinutes = (milliseconds: readonly number[]): string =>
  `{${milliseconds.map((millisecond) => Math.round(millisecond / minute)).join(',')}}`

/** The working time of the years before a day and of its own year, which stays the same all year long. */
function workedInYears(day: Day, working: WorkingTime, zone: string): WorkedLists {
  const year = Number(day.slice(0, 4))
  const known = written.get(working)
  if (known?.year === year && known.zone === zone) return known
  const first = String(Math.max(year - yearsBack, 1)).padStart(4, '0')
  const { from, before, all } = workedOver(
    `${first}-01-01`,
    `${day.slice(0, 4)}-12-31`,
    working,
    zone,
  )
  const lists = { year, zone, begins: inMinutes(from), before: inMinutes([...before, all]) }
  written.set(working, lists)
  return lists
}
