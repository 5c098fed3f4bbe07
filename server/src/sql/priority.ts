import { certain, firstIn } from '@bluestem/core/known'
import type { Binds, QueryContext } from './statement.ts'
import { type Day, dayOf } from '@bluestem/core/calendar'
import { iterationOffset, releaseOffset, type Vocabulary } from '@bluestem/core/queries'

const nothing = 'NULL::numeric'

/** A CASE from the small number of a choice to what follows from it today; unknown where nothing does. */
export function byNumber(
  queryContext: QueryContext,
  binds: Binds,
  domain: 'type' | 'priority' | 'iteration' | 'release',
  column: string,
  valueOf: (id: string) => number | null,
): string {
  const cases = queryContext.world.vocabulary.choices(domain).flatMap(({ id }) => {
    const value = valueOf(id)
    const number = queryContext.world.numbers.of(domain, id)
    return value === null || number === undefined
      ? []
      : [`WHEN ${binds.bind(number, 'int')} THEN ${binds.bind(String(value), 'numeric')}`]
  })
  return cases.length === 0 ? nothing : `CASE ${column} ${cases.join(' ')} END`
}

export const urgencySql = (queryContext: QueryContext, binds: Binds, alias: string): string =>
  byNumber(queryContext, binds, 'priority', `${alias}.priority_id`, (id) =>
    queryContext.world.vocabulary.urgencyOf(id),
  )

/** Projects that follow one ladder share a branch. */
export function rungSql(queryContext: QueryContext, binds: Binds, alias: string): string {
  const { vocabulary, projects } = queryContext.world
  const ladders = new Map<string, number[]>()
  for (const project of projects) {
    const rungs = JSON.stringify(
      vocabulary.choices('priority').map(({ id }) => vocabulary.rungOf(project.id, id)),
    )
    ladders.set(rungs, [...(ladders.get(rungs) ?? []), project.number])
  }
  const branch = ([first]: number[]): string =>
    byNumber(queryContext, binds, 'priority', `${alias}.priority_id`, (id) =>
      vocabulary.rungOf(
        certain(
          projects.find((project) => project.number === first),
          'project of a ladder',
        ).id,
        id,
      ),
    )
  if (ladders.size === 1) return branch(firstIn([...ladders.values()]))
  return `CASE ${[...ladders.values()].map((numbers) => `WHEN ${alias}.project_id = ANY(${binds.bind(numbers, 'int[]')}) THEN ${branch(numbers)}`).join(' ')} END`
}

/** How far iterations and releases lie from a day, by identity; those of releases by project. */
interface Offsets {
  readonly day: Day
  readonly iterations: ReadonlyMap<string, number | null>
  readonly releases: ReadonlyMap<string, ReadonlyMap<string, number | null>>
}

/** Statements name every offset, and they stay the same all day long. */
const offsetsOf = new WeakMap<Vocabulary, Offsets>()

function offsetsToday({ moment, world }: QueryContext): Offsets {
  const { vocabulary, zone, projects } = world
  const day = dayOf(moment, zone)
  const known = offsetsOf.get(vocabulary)
  if (known?.day === day) return known
  const releasesOf = (project: string) =>
    vocabulary.releases.map(
      ({ id }) => [id, releaseOffset(vocabulary.releases, id, project, day)] as const,
    )
  const computed = {
    day,
    iterations: new Map(
      vocabulary.iterations.map(
        ({ id }) => [id, iterationOffset(vocabulary.iterations, id, day)] as const,
      ),
    ),
    releases: new Map(projects.map(({ id }) => [id, new Map(releasesOf(id))] as const)),
  }
  offsetsOf.set(vocabulary, computed)
  return computed
}

export function iterationOffsetSql(
  queryContext: QueryContext,
  binds: Binds,
  alias: string,
): string {
  const { iterations } = offsetsToday(queryContext)
  return byNumber(
    queryContext,
    binds,
    'iteration',
    `${alias}.iteration_id`,
    (id) => iterations.get(id) ?? null,
  )
}

/** A release of several projects lies differently far in each, so every project that has releases has its own branch. */
export function releaseOffsetSql(queryContext: QueryContext, binds: Binds, alias: string): string {
  const { releases } = offsetsToday(queryContext)
  const branches = queryContext.world.projects.flatMap(({ id: project, number }) => {
    const offset = byNumber(
      queryContext,
      binds,
      'release',
      `${alias}.release_id`,
      (id) => releases.get(project)?.get(id) ?? null,
    )
    return offset === nothing ? [] : [`WHEN ${binds.bind(number, 'int')} THEN ${offset}`]
  })
  return branches.length === 0 ? nothing : `CASE ${alias}.project_id ${branches.join(' ')} END`
}
