import { identitiesByDomain, readLiving, readSetting } from './readLiving.ts'
import { type DefinitionsDocument, type Living, vocabularyOf } from '@bluestem/core/definitions'
import type { Calendar } from '@bluestem/core/calendar'
import type { Vocabulary } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { listColumns, stateColumns, typesOfColumns } from './columns.ts'
import { modelsOf } from '../database/models/models.ts'
import { type PendingMapping, pendingMappings } from './mappings.ts'
import type { Component, Label, Person, Project, Team } from './living.ts'
import { type Numbers, numbersOf } from './numbers.ts'

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
  /** what each column that a change may set is made of, as a cast names it */
  readonly columnTypes: ReadonlyMap<string, string>
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
  readonly #stamp: StampReader
  #current: World | undefined

  constructor(database: Sequelize, stamp: StampReader) {
    this.#database = database
    this.#stamp = stamp
  }

  /** The world as it is now; one small read when nothing changed. */
  async now(): Promise<World> {
    const stamp = await this.#stamp(this.#database)
    if (!stamp) throw new Error('no edition has been published: the workspace is not set up')
    if (this.#current?.edition !== stamp.edition || this.#current.living !== stamp.living)
      this.#current = await read(this.#database, stamp)
    return this.#current
  }
}

/** Which edition and which state of the living data is current. */
export interface Stamp {
  readonly edition: number
  readonly living: number
}

/** How the stamp is read; undefined where no edition has been published. */
export type StampReader = (database: Sequelize) => Promise<Stamp | undefined>

/** Reads the world of one edition and one state of the living data. */
async function read(database: Sequelize, stamp: Stamp): Promise<World> {
  const edition = await modelsOf(database).edition.findByPk(stamp.edition, { rejectOnEmpty: true })
  const { document } = edition
  const setting = await readSetting(database)
  const living = await readLiving(database)
  const numbers = numbersOf(await identitiesByDomain(database, living))
  const numberOfField = (identity: string): number => numbers.numberOf('field', identity)
  const { projects, people, labels, components, iterations, releases, calendars } = living
  const idOf = new Map(people.map((person) => [person.number, person.id]))
  const teams = living.teams.map((team) => ({
    ...team,
    people: team.people.flatMap((number) => idOf.get(number) ?? []),
  }))
  const source: Living = {
    projects,
    people,
    labels,
    components,
    iterations,
    releases,
    teams,
    calendars,
  }
  const world = {
    ...stamp,
    ...setting,
    document,
    numbers,
    hidden: new Set<string>(),
    source,
    vocabulary: vocabularyOf(document, source),
    projects: projects.map((project) => ({
      ...project,
      members: new Set(project.members),
      keepers: new Set(project.keepers),
    })),
    people,
    labels,
    labelOf: new Map(labels.map((label) => [label.id, label])),
    components,
    calendars: living.calendars,
    teams: living.teams.map((team) => ({ ...team, people: new Set(team.people) })),
    rulebookKeepers: living.rulebookKeepers,
    mappings: await pendingMappings(database, listColumns(document, numberOfField)),
    columns: stateColumns(document, numberOfField),
    columnTypes: typesOfColumns(document, numberOfField),
  }
  // It becomes whole by this very assignment: all of it is itself.
  return Object.assign(world, { whole: world as unknown as World })
}
