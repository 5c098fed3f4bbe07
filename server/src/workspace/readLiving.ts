import { certain } from '@bluestem/core/known'
import { phases } from '@bluestem/core/queries'
import type { IncludeOptions, Model, ModelStatic, Sequelize } from 'sequelize'
import type { IterationModel } from '../database/models/iteration.ts'
import { type Models, modelsOf } from '../database/models/models.ts'
import type { ReleaseModel } from '../database/models/release.ts'
import type { Identified } from './numbers.ts'
import type { Calendar } from '@bluestem/core/calendar'
import type { Component, Label, Person, Team } from './living.ts'

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

/** The title and the days of an iteration or a release. */
interface DaysRow {
  readonly title: string
  readonly start: string | null
  readonly end: string | null
}

interface IterationRow extends DaysRow {
  /** its team; empty where it is the whole workspace's */
  readonly owner: string
}

interface ReleaseRow extends DaysRow {
  readonly projects: readonly string[]
}

type TeamRow = Named<Omit<Team, 'id' | 'people'> & { readonly people: readonly number[] }>

/** What is changed at once, not by edition, as the tables hold it. */
export interface LivingRows {
  readonly projects: readonly Named<ProjectRow>[]
  readonly people: readonly Named<Omit<Person, 'id' | 'number'>>[]
  readonly labels: readonly Named<Omit<Label, 'id' | 'number'>>[]
  readonly components: readonly Named<Omit<Component, 'id' | 'number'>>[]
  readonly iterations: readonly Named<IterationRow>[]
  readonly releases: readonly Named<ReleaseRow>[]
  readonly calendars: readonly Calendar[]
  readonly teams: readonly TeamRow[]
  readonly rulebookKeepers: ReadonlyMap<string, ReadonlySet<number>>
}

/** Everything living, in its order. */
export async function readLiving(database: Sequelize): Promise<LivingRows> {
  const models = modelsOf(database)
  return {
    projects: await readProjects(models),
    people: await readPeople(models),
    labels: await readLabels(models),
    components: await readComponents(models),
    calendars: await readCalendars(models),
    teams: await readTeams(models),
    rulebookKeepers: await readKeepers(models),
    iterations: await readIterations(models),
    releases: await readReleases(models),
  }
}

async function readProjects({
  calendar,
  project,
  projectMember,
}: Models): Promise<LivingRows['projects']> {
  const found = await project.findAll({
    include: [named(calendar, 'calendar'), { model: projectMember, as: 'members' }],
    order: ['id'],
  })
  return found.map((project) => ({
    id: project.identity,
    number: project.id,
    identity: project.identity,
    code: project.code,
    title: project.title,
    description: project.description,
    open: project.open,
    version: project.version,
    calendar: project.calendar?.identity ?? null,
    members: certain(project.members, 'members').map((member) => member.personId),
    keepers: certain(project.members, 'members')
      .filter((member) => member.keeper)
      .map((member) => member.personId),
  }))
}

async function readPeople({ person }: Models): Promise<LivingRows['people']> {
  const found = await person.findAll({ order: ['id'] })
  return found.map(({ id, identity, name, email, role, password, active, version }) => ({
    id: identity,
    number: id,
    identity,
    name,
    email,
    role,
    active,
    hasPassword: password !== null,
    version,
  }))
}

async function readLabels({ family, label, project }: Models): Promise<LivingRows['labels']> {
  const found = await label.findAll({
    include: [named(family, 'family'), named(project, 'project')],
    order: ['id'],
  })
  return found.map((label) => ({
    id: label.identity,
    number: label.id,
    identity: label.identity,
    title: label.title,
    family: label.family?.identity ?? null,
    colour: label.colour,
    project: label.project?.identity ?? null,
    description: label.description,
    retired: label.retired,
    version: label.version,
  }))
}

async function readComponents({
  component,
  person,
  project,
}: Models): Promise<LivingRows['components']> {
  const found = await component.findAll({
    include: [named(project, 'project'), named(person, 'keeper')],
    order: ['id'],
  })
  return found.map((component) => ({
    id: component.identity,
    number: component.id,
    identity: component.identity,
    title: component.title,
    project: certain(component.project, 'project').identity,
    keeper: component.keeper?.identity ?? null,
    description: component.description,
    retired: component.retired,
    version: component.version,
  }))
}

async function readCalendars({ calendar }: Models): Promise<Calendar[]> {
  const found = await calendar.findAll({ order: [['standard', 'DESC'], 'title', 'id'] })
  return found.map(({ identity, title, hours, daysOff, standard, version }) => ({
    id: identity,
    title,
    hours,
    daysOff,
    standard,
    version,
  }))
}

async function readTeams({ calendar, team, teamMember }: Models): Promise<TeamRow[]> {
  const found = await team.findAll({
    include: [named(calendar, 'calendar'), { model: teamMember, as: 'members' }],
    order: ['title', 'id'],
  })
  return found.map((team) => ({
    id: team.identity,
    number: team.id,
    identity: team.identity,
    title: team.title,
    people: certain(team.members, 'members').map((member) => member.personId),
    remit: team.content.remit,
    calendar: team.calendar?.identity ?? null,
    version: team.version,
  }))
}

async function readKeepers({ rulebookKeeper }: Models): Promise<LivingRows['rulebookKeepers']> {
  const keepers = new Map<string, Set<number>>()
  for (const { rulebook, personId } of await rulebookKeeper.findAll())
    keepers.set(rulebook, (keepers.get(rulebook) ?? new Set()).add(personId))
  return keepers
}

async function readIterations({ iteration, team }: Models): Promise<LivingRows['iterations']> {
  const found = await iteration.findAll({
    include: [named(team, 'team')],
    order: ['startDate', 'id'],
  })
  return found.map((iteration) => ({ ...daysOf(iteration), owner: iteration.team?.identity ?? '' }))
}

async function readReleases({ project, release }: Models): Promise<LivingRows['releases']> {
  const found = await release.findAll({
    include: [{ ...named(project, 'projects'), through: { attributes: [] } }],
    order: ['endDate', 'id'],
  })
  return found.map((release) => ({
    ...daysOf(release),
    projects: (release.projects ?? []).map(({ identity }) => identity),
  }))
}

const daysOf = ({
  id,
  identity,
  title,
  startDate,
  endDate,
}: IterationModel | ReleaseModel): Named<DaysRow> => ({
  id: identity,
  number: id,
  identity,
  title,
  start: startDate,
  end: endDate,
})

/** What a row names, by its identity. */
const named = (model: ModelStatic<Model>, as: string): IncludeOptions => ({
  model,
  as,
  attributes: ['identity'],
})

/** The workspace's title, zone, and whether it is the demo. */
export async function readSetting(
  database: Sequelize,
): Promise<{ title: string; zone: string; demo: boolean }> {
  const setting = await modelsOf(database).setting.findOne()
  if (!setting) return { title: 'Bluestem', zone: 'UTC', demo: false }
  const { title, zone, demo } = setting
  return { title, zone, demo }
}

/** The identity and the number of everything that items name, by domain. */
export async function identitiesByDomain(
  database: Sequelize,
  living: LivingRows,
): Promise<ReadonlyMap<string, readonly Identified[]>> {
  const { family, field, fieldOption, itemType, linkKind, priority, status } = modelsOf(database)
  const byDomain = new Map<string, readonly Identified[]>([
    ['project', living.projects],
    ['person', living.people],
    ['label', living.labels],
    ['component', living.components],
    ['iteration', living.iterations],
    ['release', living.releases],
    ['team', living.teams],
    ['phase', phases.map((identity, number) => ({ identity, number }))],
  ])
  const defined = { type: itemType, status, priority, linkKind, family, field }
  for (const [domain, model] of Object.entries(defined))
    byDomain.set(
      domain,
      (await model.findAll({ attributes: ['number', 'identity'] })).map(({ number, identity }) => ({
        number,
        identity,
      })),
    )
  for (const { number, identity, field: of } of await fieldOption.findAll({
    include: [named(field, 'field')],
  })) {
    const domain = `option:${certain(of, 'field of an option').identity}`
    byDomain.set(domain, [...(byDomain.get(domain) ?? []), { number, identity }])
  }
  return byDomain
}
