import { type DefinitionsDocument, type Living, vocabularyOf } from '@bluestem/core/definitions'
import type { Calendar } from '@bluestem/core/calendar'
import { type Cql2Json, phases, type Vocabulary } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { stateColumns } from '../items/columns.ts'
import { rows } from '../database/connect.ts'
import { type PendingMapping, pendingMappings } from '../items/remap.ts'
import { type Identified, type Numbers, numbersOf } from './numbers.ts'

export interface Project {
  readonly id: string
  readonly number: number
  readonly code: string
  readonly title: string
  readonly description: string
  readonly open: boolean
  readonly members: ReadonlySet<number>
  readonly keepers: ReadonlySet<number>
  readonly calendar: string | null
  readonly version: number
}
export interface Person {
  readonly id: string
  readonly number: number
  readonly name: string
  readonly email: string
  readonly role: 'administrator' | 'member' | 'viewer'
  /** whether they may still sign in */ readonly active: boolean
}
export interface Label {
  readonly id: string
  readonly number: number
  readonly title: string
  readonly family: string | null
  readonly colour: number
  readonly project: string | null
  readonly description: string
  readonly retired: boolean
  readonly version: number
}
export interface Component {
  readonly id: string
  readonly number: number
  readonly title: string
  readonly project: string
  readonly keeper: string | null
  readonly description: string
  readonly retired: boolean
  readonly version: number
}

export interface Team {
  readonly id: string
  readonly title: string
  readonly people: ReadonlySet<number>
  /** the filter for the items that are theirs, with identities; none yet when null */ readonly remit: Cql2Json | null
  readonly calendar: string | null
  readonly version: number
}

/** Everything defined, as of one edition and one version of the living data. Never changed, only replaced. */
export interface World {
  readonly edition: number
  readonly living: number
  readonly document: DefinitionsDocument
  readonly vocabulary: Vocabulary
  readonly numbers: Numbers
  readonly zone: string
  readonly title: string
  readonly demo: boolean
  readonly projects: readonly Project[]
  readonly people: readonly Person[]
  readonly labels: readonly Label[]
  /** the same by identity: there may be thousands */
  readonly labelOf: ReadonlyMap<string, Label>
  readonly components: readonly Component[]
  readonly calendars: readonly Calendar[]
  /** in the order of their titles */
  readonly teams: readonly Team[]
  /** the numbers of the people who keep each rulebook */
  readonly rulebookKeepers: ReadonlyMap<string, ReadonlySet<number>>
  /** mappings that are still being carried out */
  readonly mappings: readonly PendingMapping[]
  /** the columns of a state, as statements of this edition name them */
  readonly columns: readonly string[]
  /** everything there is, whoever asks: for what concerns all, such as publishing; never for telling */
  readonly whole: World
  /** identities that whoever asks may not see */
  readonly hidden: ReadonlySet<string>
  /** what the vocabulary was made from */
  readonly source: Living
}

/** Keeps the current world, and reads it anew when an edition was published or something living changed. */
export class Worlds {
  readonly #database: Sequelize
  #current: World | undefined

  constructor(database: Sequelize) {
    this.#database = database
  }

  /** The world as it is now; one small read when nothing changed. */
  async now(): Promise<World> {
    const [stamp] = await rows<{ edition: number; living: number }>(
      this.#database,
      'SELECT e.number edition, l.version living FROM current_edition e, living l',
    )
    if (!stamp) throw new Error('no edition has been published: the workspace is not set up')
    if (this.#current?.edition !== stamp.edition || this.#current.living !== stamp.living)
      this.#current = await read(this.#database, stamp)
    return this.#current
  }
}

async function read(
  database: Sequelize,
  stamp: { edition: number; living: number },
): Promise<World> {
  const all = async <T extends object>(sql: string): Promise<T[]> => await rows<T>(database, sql)
  const [edition] = await rows<{ document: DefinitionsDocument }>(
    database,
    'SELECT document FROM edition WHERE number = $1',
    [stamp.edition],
  )
  const [setting] = await all<{ title: string; zone: string; demo: boolean }>(
    'SELECT title, zone, demo FROM setting',
  )
  const projects = await all<
    Identified & {
      code: string
      title: string
      description: string
      open: boolean
      members: number[]
      keepers: number[]
      calendar: string | null
      version: number
    }
  >(`
    SELECT id number, identity, code, title, description, open, version, (SELECT c.identity FROM calendar c WHERE c.id = p.calendar_id) AS calendar,
      ARRAY(SELECT person_id FROM project_member m WHERE m.project_id = p.id) members, ARRAY(SELECT person_id FROM project_member m WHERE m.project_id = p.id AND keeper) keepers FROM project p ORDER BY id`)
  const people = await all<
    Identified & { name: string; email: string; role: Person['role']; active: boolean }
  >('SELECT id number, identity, name, email, role, active FROM person ORDER BY id')
  const labels = await all<Identified & Omit<Label, 'id' | 'number'>>(
    'SELECT l.id number, l.identity, l.title, f.identity family, l.colour, p.identity project, l.description, l.retired, l.version FROM label l LEFT JOIN family f ON f.number = l.family_number LEFT JOIN project p ON p.id = l.project_id ORDER BY l.id',
  )
  const components = await all<Identified & Omit<Component, 'id' | 'number'>>(
    'SELECT c.id number, c.identity, c.title, p.identity project, k.identity keeper, c.description, c.retired, c.version FROM component c JOIN project p ON p.id = c.project_id LEFT JOIN person k ON k.id = c.keeper_id ORDER BY c.id',
  )
  const calendars = await all<Calendar>(
    'SELECT identity AS id, title, hours, days_off AS "daysOff", standard, version FROM calendar ORDER BY standard DESC, title, id',
  )
  const teams = await all<Omit<Team, 'people'> & { people: number[] }>(
    `SELECT t.identity AS id, t.title, ARRAY(SELECT person_id FROM team_member m WHERE m.team_id = t.id) AS people, t.content->'remit' AS remit, c.identity AS calendar, t.version FROM team t LEFT JOIN calendar c ON c.id = t.calendar_id ORDER BY t.title, t.id`,
  )
  const keepers = await all<{ rulebook: string; people: number[] }>(
    'SELECT rulebook, array_agg(person_id) AS people FROM rulebook_keeper GROUP BY 1',
  )
  const iterations = await all<
    Identified & { title: string; owner: string; start: string | null; end: string | null }
  >(
    `SELECT i.id number, i.identity, i.title, coalesce(t.identity, '') AS owner, start_date start, end_date "end" FROM iteration i LEFT JOIN team t ON t.id = i.team_id ORDER BY start_date, i.id`,
  )
  const releases = await all<
    Identified & { title: string; owner: string; start: string | null; end: string | null }
  >(
    `SELECT r.id number, r.identity, r.title, coalesce(p.identity, '') AS owner, start_date start, end_date "end" FROM release r LEFT JOIN project p ON p.id = r.project_id ORDER BY end_date, r.id`,
  )
  const defined = async (table: string): Promise<Identified[]> =>
    await all<Identified>(`SELECT number, identity FROM ${table}`)
  const options = await all<Identified & { field: string }>(
    'SELECT o.number, o.identity, f.identity field FROM field_option o JOIN field f ON f.number = o.field_number',
  )
  const byDomain = new Map<string, readonly Identified[]>([
    ['project', projects],
    ['person', people],
    ['label', labels],
    ['component', components],
    ['iteration', iterations],
    ['release', releases],
    ['type', await defined('item_type')],
    ['status', await defined('status')],
    ['priority', await defined('priority')],
    ['linkKind', await defined('link_kind')],
    ['family', await defined('family')],
    ['field', await defined('field')],
    ['phase', phases.map((identity, number) => ({ identity, number }))],
  ])
  for (const option of options)
    byDomain.set(`option:${option.field}`, [
      ...(byDomain.get(`option:${option.field}`) ?? []),
      option,
    ])
  const numbers = numbersOf(byDomain)
  const document = edition!.document
  const named = <T extends Identified>(list: readonly T[]): (T & { id: string })[] =>
    list.map((one) => ({ ...one, id: one.identity }))
  const livingData: Living = {
    projects: named(projects),
    people: named(people),
    labels: named(labels),
    components: named(components),
    iterations: named(iterations),
    releases: named(releases),
  }
  const world = {
    ...stamp,
    document,
    numbers,
    hidden: new Set<string>(),
    source: livingData,
    zone: setting?.zone ?? 'UTC',
    title: setting?.title ?? 'Bluestem',
    demo: setting?.demo ?? false,
    vocabulary: vocabularyOf(document, livingData),
    projects: named(projects).map((project) => ({
      ...project,
      members: new Set(project.members),
      keepers: new Set(project.keepers),
    })),
    people: named(people),
    labels: named(labels),
    labelOf: new Map(named(labels).map((label) => [label.id, label])),
    components: named(components),
    calendars,
    teams: teams.map((team) => ({ ...team, people: new Set(team.people) })),
    rulebookKeepers: new Map(keepers.map((one) => [one.rulebook, new Set(one.people)])),
    mappings: await pendingMappings(database),
    columns: stateColumns(document, (identity) => numbers.of('field', identity)!),
  }
  return Object.assign(world, { whole: world as unknown as World })
}
