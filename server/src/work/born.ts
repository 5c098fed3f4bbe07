import { entryOf, firstIn } from '@bluestem/core/known'
import { instantText } from '@bluestem/core/calendar'
import { typesOf } from '@bluestem/core/definitions'
import { clauseInWords, type Condition, type Facts, type Property } from '@bluestem/core/queries'
import {
  type BirthPlace,
  type Born,
  bornMatching,
  clausesOf,
  handlesOf,
  meets,
} from '@bluestem/core/views'
import {
  type BirthAnswer,
  type BirthAsked,
  givenHandles,
  plainItem,
  sameValue,
  type WorkRules,
} from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { choiceShown, displayValue } from '../items/row.ts'
import { usualTypeIn } from './usualType.ts'
import { readSavedFilter } from '../queries/filter.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'
import { offeredChoices } from './offered.ts'
import { rulesFor } from './rules.ts'

/** Handles that whoever makes an item gives otherwise: by writing, or by choosing where it is made. */
const givenOtherwise: ReadonlySet<string> = new Set(['title', 'description', 'type'])

/** Whether an item meets the clauses that look at nothing but some of its properties. */
const meetsOf = (
  condition: Condition,
  handles: readonly string[],
  item: Facts,
  { moment }: Pick<BirthPlace, 'moment'>,
): boolean =>
  clausesOf(condition)
    .filter((clause) => [...handlesOf(clause)].every((handle) => handles.includes(handle)))
    .every((clause) => meets(clause, item, moment))

const birthPlace = (actor: ActorContext, project: string, type: string): BirthPlace => {
  const { world, person, now } = actor
  const { vocabulary, zone, document } = world
  const isGivable = ({ handle, builtIn, computed }: Property): boolean =>
    builtIn ? givenHandles.has(handle) && !givenOtherwise.has(handle) : !computed
  return {
    moment: { vocabulary, zone, now: now.getTime(), me: person.id },
    givable: (handle) => {
      const property = vocabulary.properties.get(handle)
      return property && isGivable(property) ? property : undefined
    },
    offered: (property) => offeredChoices(actor, property, project, type),
    phaseOf: (status) => document.statuses[status]?.phase ?? null,
  }
}

/** A project and a type in it, with what an item made there would hold. */
interface Birth {
  readonly project: string
  readonly types: readonly string[]
  readonly type: string
  readonly start: Facts
  readonly born: Born
}

function birthOf(
  actor: ActorContext,
  rules: WorkRules,
  condition: Condition,
  project: string,
  types: readonly string[],
  type: string,
): Birth {
  const start = plainItem(rules, project, type)
  const born = bornMatching(condition, start, birthPlace(actor, project, type))
  return { project, types, type, start, born }
}

const fewestUnmet = (births: readonly Birth[]): Birth | undefined =>
  births.toSorted((a, b) => a.born.unmet.length - b.born.unmet.length)[0]

/** The projects in which an item may be among the answers, each with the types it may have there. */
function birthplaces(
  { world, person, now }: ActorContext,
  condition: Condition,
): { readonly project: string; readonly types: readonly string[] }[] {
  const { vocabulary, zone, document } = world
  const moment = { vocabulary, zone, now: now.getTime(), me: person.id }
  const visible = visibleProjects(world, person)
  return world.projects
    .filter(({ id, number }) => visible.includes(number) && document.projects[id] !== undefined)
    .filter(({ id }) => meetsOf(condition, ['project'], { project: id }, { moment }))
    .map(({ id }) => ({
      project: id,
      types: typesOf(document, entryOf(document.projects, id))
        .filter((type) => !entryOf(document.types, type).retired)
        .filter((type) =>
          meetsOf(condition, ['project', 'type', 'tier'], { project: id, type }, { moment }),
        ),
    }))
    .filter(({ types }) => types.length > 0)
}

/** What a new item is given so that it is born as it should be: choices by identity, custom fields apart. */
function givenOf(world: World, { start, born: { item } }: Birth): BirthAnswer['given'] {
  const own: Record<string, unknown> = {}
  const fields: Record<string, unknown> = {}
  for (const { handle, builtIn, type } of takenOf(world, start, item)) {
    const value = item[handle]
    const given =
      type.kind === 'timestamp' && typeof value === 'number' ? instantText(value) : value
    if (builtIn) own[handle] = given
    else fields[handle] = given
  }
  return Object.keys(fields).length > 0 ? { ...own, fields } : own
}

/** The properties in which a born item differs from a plain one. */
const takenOf = ({ vocabulary }: World, start: Facts, item: Facts): Property[] =>
  [...vocabulary.properties.values()].filter(
    ({ handle }) => handle !== 'phase' && !sameValue(start[handle] ?? null, item[handle] ?? null),
  )

/** Where an item that answers a filter may be made, which values make it an answer, and which clauses nothing can meet. */
export async function born(
  database: Sequelize,
  actor: ActorContext,
  asked: BirthAsked,
): Promise<BirthAnswer> {
  const { world } = actor
  const condition = readSavedFilter(world, asked.filter)
  const rules = rulesFor(actor)
  const places = birthplaces(actor, condition)
  const wanted = places.filter(({ project }) => project === asked.project)
  const first = fewestUnmet(
    (wanted.length > 0 ? wanted : places).map(({ project, types }) =>
      birthOf(actor, rules, condition, project, types, firstIn(types)),
    ),
  )
  const projects = places.map(({ project }) => choiceShown(world, 'project', project, ''))
  const words = (clauses: readonly Condition[]): string[] =>
    clauses.map((clause) => clauseInWords(clause, world.vocabulary))
  if (!first)
    return {
      projects,
      types: [],
      project: null,
      type: null,
      given: {},
      takes: [],
      unmet: words(clausesOf(condition)),
      written: [],
    }
  const { project, types } = first
  const usual = await usualTypeIn(database, world, world.numbers.numberOf('project', project))
  const likely = [asked.type, usual].find((type) => type && types.includes(type)) ?? firstIn(types)
  const birth = birthOf(actor, rules, condition, project, types, likely)
  return {
    projects,
    types: types.map((type) => choiceShown(world, 'type', type, project)),
    project,
    type: birth.type,
    given: givenOf(world, birth),
    takes: takenOf(world, birth.start, birth.born.item).map((property) => ({
      title: property.title,
      handle: property.handle,
      value: displayValue(world, property, birth.born.item[property.handle] ?? null, project),
    })),
    unmet: words(birth.born.unmet),
    written: words(birth.born.written),
  }
}
