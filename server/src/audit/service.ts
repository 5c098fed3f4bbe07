import { isDay } from '@bluestem/core/calendar'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import type { World } from '../workspace/world.ts'
import type { RequestContext } from '../http/endpoint.ts'
import { invalid } from '../problems/problem.ts'

interface Act {
  readonly number: number
  readonly at: Date
  readonly by_id: number | null
  readonly act: string
  readonly subject: string
  readonly before: unknown
  readonly after: unknown
}

const page = 100

/** The title of what an act was about, as far as it is known: acts name it by identity or code, which never change. */
function titleOf(world: World, { subject, before, after }: Act): string | null {
  const [kind, id] = subject.split(' ') as [string, string]
  const then = [after, before]
    .map((value) => (value as { title?: unknown } | null)?.title)
    .find((title) => typeof title === 'string')
  return present[kind]?.(world, id)?.title ?? then ?? null
}

/** What there is now, by kind. */
const present: Readonly<
  Record<string, (world: World, id: string) => { readonly title: string } | undefined>
> = {
  label: (world, id) => world.labelOf.get(id),
  component: (world, id) => world.components.find((one) => one.id === id),
  calendar: (world, id) => world.calendars.find((one) => one.id === id),
  team: (world, id) => world.teams.find((one) => one.id === id),
  project: (world, code) => world.projects.find((one) => one.code === code),
  rulebook: (world, id) => world.document.rulebooks[id],
}

/** The audit list, latest first, narrowed by who, by the act, by words of its subject, and by days; `before` goes on below a number. */
export async function auditList(
  database: Sequelize,
  { world, query }: RequestContext,
): Promise<object> {
  const person =
    query['by'] === undefined
      ? null
      : (world.people.find((one) => one.id === query['by'])?.number ?? -1)
  const below = query['before'] === undefined ? null : Number(query['before'])
  if (below !== null && !Number.isSafeInteger(below))
    throw invalid([
      {
        pointer: '/before',
        message: 'A place in the list is the number of an act.',
        expected: 'a whole number',
        found: query['before']!,
      },
    ])
  const day = (name: 'from' | 'to'): string | null => {
    const value = query[name]
    if (value !== undefined && !isDay(value))
      throw invalid([
        { pointer: `/${name}`, message: 'This is no day.', expected: '2026-03-01', found: value },
      ])
    return value ?? null
  }
  const found = await rows<Act>(
    database,
    `SELECT number, at, by_id, act, subject, before, after FROM audit
    WHERE ($1::int IS NULL OR by_id = $1) AND ($2::text IS NULL OR act = $2) AND ($3::text IS NULL OR position(lower($3) in lower(subject || ' ' || act || ' ' || coalesce(before::text, '') || ' ' || coalesce(after::text, ''))) > 0)
      AND ($4::date IS NULL OR at >= $4::date::timestamp AT TIME ZONE $6) AND ($5::date IS NULL OR at < ($5::date + 1)::timestamp AT TIME ZONE $6) AND ($7::bigint IS NULL OR number < $7)
    ORDER BY number DESC LIMIT ${page + 1}`,
    [
      person,
      query['act'] ?? null,
      query['words'] ?? null,
      day('from'),
      day('to'),
      world.zone,
      below,
    ],
  )
  const acts = await rows<{ act: string }>(database, 'SELECT DISTINCT act FROM audit ORDER BY act')
  return {
    acts: found.slice(0, page).map(({ by_id, ...act }) => ({
      ...act,
      title: titleOf(world, { by_id, ...act }),
      by: world.people.find((one) => one.number === by_id)?.name ?? null,
    })),
    kinds: acts.map((one) => one.act),
    more: found.length > page ? found[page - 1]!.number : null,
  }
}
