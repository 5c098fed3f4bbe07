import { phases } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import type { Identified } from './numbers.ts'
import type { Calendar } from '@bluestem/core/calendar'
import type { Component, Label, Person, Team } from './world.ts'

/** A row that has an identity, which is also told as its id. */
type Named<T> = T & Identified & { readonly id: string }

interface ProjectRow {
  readonly code: string
  readonly title: string
  readonly description: string
  readonly open: boolean
  readonly members: readonly number[]
  readonly keepers: readonly number[]
  readonly calendar: string | null
  readonly version: number
}

/** An iteration or a release: whose it is, and its first and last day. */
interface SpanRow {
  readonly title: string
  readonly owner: string
  readonly start: string | null
  readonly end: string | null
}

type TeamRow = Omit<Team, 'people'> & { readonly people: readonly number[] }

/** What is changed at once, not by edition, as the tables hold it. */
export interface LivingRows {
  readonly projects: readonly Named<ProjectRow>[]
  readonly people: readonly Named<Omit<Person, 'id' | 'number'>>[]
  readonly labels: readonly Named<Omit<Label, 'id' | 'number'>>[]
  readonly components: readonly Named<Omit<Component, 'id' | 'number'>>[]
  readonly iterations: readonly Named<SpanRow>[]
  readonly releases: readonly Named<SpanRow>[]
  readonly calendars: readonly Calendar[]
  readonly teams: readonly TeamRow[]
  readonly rulebookKeepers: ReadonlyMap<string, ReadonlySet<number>>
}

const projectsSql = `
  SELECT id number, identity, code, title, description, open, version,
    (SELECT c.identity FROM calendar c WHERE c.id = p.calendar_id) AS calendar,
    ARRAY(SELECT person_id FROM project_member m WHERE m.project_id = p.id) members,
    ARRAY(SELECT person_id FROM project_member m WHERE m.project_id = p.id AND keeper) keepers
  FROM project p ORDER BY id`

const peopleSql = 'SELECT id number, identity, name, email, role, active FROM person ORDER BY id'

const labelsSql = `
  SELECT l.id number, l.identity, l.title, f.identity family, l.colour, p.identity project,
    l.description, l.retired, l.version
  FROM label l
  LEFT JOIN family f ON f.number = l.family_number
  LEFT JOIN project p ON p.id = l.project_id
  ORDER BY l.id`

const componentsSql = `
  SELECT c.id number, c.identity, c.title, p.identity project, k.identity keeper, c.description,
    c.retired, c.version
  FROM component c
  JOIN project p ON p.id = c.project_id
  LEFT JOIN person k ON k.id = c.keeper_id
  ORDER BY c.id`

const calendarsSql = `
  SELECT identity AS id, title, hours, days_off AS "daysOff", standard, version
  FROM calendar ORDER BY standard DESC, title, id`

const teamsSql = `
  SELECT t.identity AS id, t.title,
    ARRAY(SELECT person_id FROM team_member m WHERE m.team_id = t.id) AS people,
    t.content->'remit' AS remit, c.identity AS calendar, t.version
  FROM team t LEFT JOIN calendar c ON c.id = t.calendar_id ORDER BY t.title, t.id`

const keepersSql = `
  SELECT rulebook, array_agg(person_id) AS people FROM rulebook_keeper GROUP BY 1`

const iterationsSql = `
  SELECT i.id number, i.identity, i.title, coalesce(t.identity, '') AS owner, start_date start,
    end_date "end"
  FROM iteration i LEFT JOIN team t ON t.id = i.team_id ORDER BY start_date, i.id`

const releasesSql = `
  SELECT r.id number, r.identity, r.title, coalesce(p.identity, '') AS owner, start_date start,
    end_date "end"
  FROM release r LEFT JOIN project p ON p.id = r.project_id ORDER BY end_date, r.id`

async function named<T extends object>(database: Sequelize, sql: string): Promise<Named<T>[]> {
  const found = await rows<T & Identified>(database, sql)
  return found.map((one) => ({ ...one, id: one.identity }))
}

async function readKeepers(database: Sequelize): Promise<LivingRows['rulebookKeepers']> {
  const found = await rows<{ rulebook: string; people: number[] }>(database, keepersSql)
  return new Map(found.map((one) => [one.rulebook, new Set(one.people)]))
}

/** Everything living, in its order. */
export async function readLiving(database: Sequelize): Promise<LivingRows> {
  return {
    projects: await named(database, projectsSql),
    people: await named(database, peopleSql),
    labels: await named(database, labelsSql),
    components: await named(database, componentsSql),
    calendars: await rows<Calendar>(database, calendarsSql),
    teams: await rows<TeamRow>(database, teamsSql),
    rulebookKeepers: await readKeepers(database),
    iterations: await named(database, iterationsSql),
    releases: await named(database, releasesSql),
  }
}

/** The workspace's title, zone, and whether it is the demo. */
export async function readSetting(
  database: Sequelize,
): Promise<{ title: string; zone: string; demo: boolean }> {
  const [setting] = await rows<{ title: string; zone: string; demo: boolean }>(
    database,
    'SELECT title, zone, demo FROM setting',
  )
  return setting ?? { title: 'Bluestem', zone: 'UTC', demo: false }
}

/** The tables that project the definitions, by the domain whose choices they number. */
const definedTables = {
  type: 'item_type',
  status: 'status',
  priority: 'priority',
  linkKind: 'link_kind',
  family: 'family',
  field: 'field',
} as const

/** The identity and the number of everything that items name, by domain. */
export async function identitiesByDomain(
  database: Sequelize,
  living: LivingRows,
): Promise<ReadonlyMap<string, readonly Identified[]>> {
  const byDomain = new Map<string, readonly Identified[]>([
    ['project', living.projects],
    ['person', living.people],
    ['label', living.labels],
    ['component', living.components],
    ['iteration', living.iterations],
    ['release', living.releases],
    ['phase', phases.map((identity, number) => ({ identity, number }))],
  ])
  for (const [domain, table] of Object.entries(definedTables))
    byDomain.set(domain, await rows<Identified>(database, `SELECT number, identity FROM ${table}`))
  const options = await rows<Identified & { field: string }>(
    database,
    'SELECT o.number, o.identity, f.identity field FROM field_option o JOIN field f ON f.number = o.field_number',
  )
  for (const option of options) {
    const domain = `option:${option.field}`
    byDomain.set(domain, [...(byDomain.get(domain) ?? []), option])
  }
  return byDomain
}
