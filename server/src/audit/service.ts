import { elementAt, entryOf, halves, isRecord } from '@bluestem/core/known'
import { addDays, isDay, lastDay, startOfDay } from '@bluestem/core/calendar'
import { actInWords } from '@bluestem/core/audit'
import { sections } from '@bluestem/core/definitions'
import type { AnswerOf } from '@bluestem/core/contract'
import { cast, col, fn, Op, type Sequelize, where, type WhereOptions } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import type { RequestContext } from '../http/endpoint.ts'
import { invalid } from '../problems/problem.ts'

interface Act {
  readonly subject: string
  readonly before: unknown
  readonly after: unknown
}

const page = 100

/** The title of what an act was about, as far as it is known: acts name it by identity or code, which never change. */
function titleOf(world: World, { subject, before, after }: Act): string | null {
  const [kind, id] = halves(subject, ' ')
  const then = [after, before]
    .map((value) => (isRecord(value) ? value['title'] : undefined))
    .find((title) => typeof title === 'string')
  return present[kind]?.(world, id)?.title ?? then ?? null
}

/** What there is now, by kind. */
const present: Readonly<
  Record<string, (world: World, id: string) => { readonly title: string } | undefined>
> = {
  label: (world, id) => world.labelOf.get(id),
  component: (world, id) => world.components.find((component) => component.id === id),
  calendar: (world, id) => world.calendars.find((calendar) => calendar.id === id),
  team: (world, id) => world.teams.find((team) => team.id === id),
  project: (world, code) => world.projects.find((project) => project.code === code),
  rulebook: (world, id) => world.document.rulebooks[id],
}

/** The titles of everything that whoever asks may know, by identity. */
function titlesIn({ document, ...world }: World): ReadonlyMap<string, string> {
  const { calendars, components, labels, people, projects, teams } = world
  const entries = sections.flatMap((section) => {
    const held: Readonly<Record<string, { readonly title?: string }>> = document[section]
    return Object.entries(held).map(([id, { title = id }]) => ({ id, title }))
  })
  const named = people.map(({ id, name }) => ({ id, title: name }))
  return new Map(
    [...entries, ...labels, ...components, ...calendars, ...teams, ...projects, ...named].map(
      ({ id, title }) => [id, title],
    ),
  )
}

/** Acts whose subject, kind or content says some words, in any case. */
const saying = (words: string): WhereOptions => {
  const parts = ['subject', 'act', 'before', 'after'].map((column) => cast(col(column), 'text'))
  const text = fn('lower', fn('concat_ws', ' ', ...parts))
  return where(fn('strpos', text, words.toLowerCase()), { [Op.gt]: 0 })
}

/** Acts from one day to another, both included, by the workspace's calendar. */
function onDays(zone: string, from: string | null, to: string | null): WhereOptions {
  const begins = (day: string): Date => new Date(startOfDay(day, zone))
  return {
    ...(from === null ? {} : { at: { [Op.gte]: begins(from) } }),
    ...(to === null || to === lastDay
      ? {}
      : { [Op.and]: [{ at: { [Op.lt]: begins(addDays(to, 1)) } }] }),
  }
}

/** The audit list, latest first, narrowed by who, by the act, by words of its subject, and by days; `before` goes on below a number. */
export async function auditList(
  database: Sequelize,
  { world, query }: RequestContext<'GET /audit'>,
): Promise<AnswerOf<'GET /audit'>> {
  const person =
    query['by'] === undefined
      ? null
      : (world.people.find((person) => person.id === query['by'])?.number ?? -1)
  const below = query['before'] === undefined ? null : Number(query['before'])
  if (below !== null && !Number.isSafeInteger(below))
    throw invalid([
      {
        pointer: '/before',
        message: 'A place in the list is the number of an act.',
        expected: 'a whole number',
        found: entryOf(query, 'before'),
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
  const { audit } = modelsOf(database)
  const found = await audit.findAll({
    where: {
      [Op.and]: [
        person === null ? {} : { byId: person },
        query['act'] === undefined ? {} : { act: query['act'] },
        query['words'] === undefined ? {} : saying(query['words']),
        onDays(world.zone, day('from'), day('to')),
        below === null ? {} : { number: { [Op.lt]: below } },
      ],
    },
    order: [['number', 'DESC']],
    limit: page + 1,
    raw: true,
  })
  const acts = await audit.findAll({
    attributes: [[fn('DISTINCT', col('act')), 'act']],
    order: ['act'],
    raw: true,
  })
  const titles = titlesIn(world)
  return {
    acts: found.slice(0, page).map(({ byId, at, ...act }) => ({
      ...act,
      at: at.toISOString(),
      title: titleOf(world, act),
      lines: actInWords(act, (identity) => titles.get(identity)),
      by: world.people.find((person) => person.number === byId)?.name ?? null,
    })),
    kinds: acts.map((audit) => audit.act),
    more: found.length > page ? elementAt(found, page - 1).number : null,
  }
}
