import { type Field, isComputed } from '@bluestem/core/definitions'
import type { Domain, FactValue, Property } from '@bluestem/core/queries'
import { givenHandles, readValue, type Rules } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { columnTypes } from '../workspace/columns.ts'
import type { Project, World } from '../workspace/world.ts'
import { invalid, type ProblemDetail } from '../problems/problem.ts'
import { columnOf } from '../sql/property.ts'
import type { QueryContext } from '../sql/statement.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { ItemRow } from '../items/row.ts'
import { parentId } from './parent.ts'

/** What rules a value of a custom field must meet beside its kind. */
const rulesOf = (field: Field | undefined): Rules => ({
  decimals: field?.kind === 'number' ? field.decimals : undefined,
  smallest: field?.smallest,
  largest: field?.largest,
  pattern: field?.pattern,
  webAddress: field?.kind === 'web address',
  longest: field?.kind === 'text' ? 1000 : 20_000,
})

const fieldByHandle = (world: World, handle: string): [string, Field] | undefined =>
  Object.entries(world.document.fields).find(([, field]) => field.handle === handle)

export interface ReadValues {
  readonly values: Record<string, unknown>
  readonly types: Record<string, string>
  readonly description?: string | null
}

/** One value that was given: where it stands, and whether it stands beside the fields or among them. */
interface GivenValue {
  readonly handle: string
  readonly raw: unknown
  readonly pointer: string
  readonly amongFields: boolean
}

/** What was given, value by value; the project and the position have their own readers. */
function valuesGiven(given: Record<string, unknown>): GivenValue[] {
  const { fields = {}, project: _project, position: _position, ...builtIn } = given
  return [
    ...Object.entries(builtIn).map(([handle, raw]) => ({
      handle,
      raw,
      pointer: `/${handle}`,
      amongFields: false,
    })),
    ...Object.entries(fields as Record<string, unknown>).map(([handle, raw]) => ({
      handle,
      raw,
      pointer: `/fields/${handle}`,
      amongFields: true,
    })),
  ]
}

/** The property a value is for, or why nothing can be given there. */
function propertyGiven(
  world: World,
  { handle, pointer, amongFields }: GivenValue,
): { property: Property } | { wrong: ProblemDetail } {
  const property = world.vocabulary.properties.get(handle)
  if (property?.builtIn && amongFields)
    return {
      wrong: {
        pointer,
        message: `${property.title} is no custom field; it stands beside “fields”.`,
        expected: 'a custom field by its handle',
        found: handle,
      },
    }
  if (property?.builtIn && !givenHandles.has(handle))
    return {
      wrong: {
        pointer,
        message: `${property.title} follows from what happens to an item; it cannot be given.`,
        expected: 'a custom field by its handle',
        found: handle,
      },
    }
  if (!property || amongFields === property.builtIn)
    return {
      wrong: {
        pointer,
        message: `There is no field “${handle}”.`,
        expected: 'a handle',
        found: handle,
      },
    }
  return { property }
}

/** A value as items hold it, or what is wrong with it. */
function heldGiven(
  world: World,
  { handle, raw, pointer }: GivenValue,
  property: Property,
): { value: FactValue } | { wrong: ProblemDetail } {
  const rules = handle === 'title' ? { longest: 300 } : rulesOf(fieldByHandle(world, handle)?.[1])
  const reading = readValue(property, rules, raw, world.vocabulary)
  if (!reading.ok) {
    const { message, expected, found } = reading
    return { wrong: { pointer, message: message, expected, found } }
  }
  if (handle === 'title' && reading.value === null)
    return { wrong: { pointer, message: 'An item needs a title.', expected: 'a title' } }
  return { value: reading.value }
}

/** The type of a custom field's column, as a cast names it. */
function castOf(world: World, handle: string): string | undefined {
  const field = fieldByHandle(world, handle)?.[1]
  if (!field || isComputed(field.kind)) return undefined
  return columnTypes[field.kind as keyof typeof columnTypes].replace(/ COLLATE.*| NOT NULL.*/, '')
}

/** Reads what was given of an item into columns; every value that does not fit is told, each with its place. */
export async function readValues(
  database: Sequelize,
  actor: ActorContext,
  given: Record<string, unknown>,
  project: Project,
  held: ItemRow = {},
): Promise<ReadValues> {
  const { world } = actor
  const values: Record<string, unknown> = {}
  const types: Record<string, string> = {}
  const wrong: ProblemDetail[] = []
  let description: string | null | undefined
  for (const one of valuesGiven(given)) {
    const { handle, pointer } = one
    const named = propertyGiven(world, one)
    const read = 'wrong' in named ? named : heldGiven(world, one, named.property)
    if ('wrong' in read || 'wrong' in named) {
      wrong.push('wrong' in named ? named.wrong : (read as { wrong: ProblemDetail }).wrong)
      continue
    }
    if (handle === 'description') {
      description = read.value as string | null
      continue
    }
    const { property } = named
    const column = columnOf({ world } as QueryContext, property)!
    const retired = retiredIn(world, property, read.value, held[column], project)
    if (retired) {
      const message = `${property.title}: ${retired}`
      wrong.push({ pointer, message: message, expected: 'a value that is offered' })
      continue
    }
    try {
      values[column] = await stored(database, actor, property, read.value, project)
    } catch (error) {
      wrong.push({ pointer, message: (error as Error).message })
    }
    const cast = castOf(world, handle)
    if (cast) types[column] = cast
  }
  if (wrong.length > 0) throw invalid(wrong)
  return { values, types, ...(description === undefined ? {} : { description }) }
}

const listOf = (value: FactValue): readonly string[] => {
  if (Array.isArray(value)) return value as readonly string[]
  return value === null ? [] : [String(value)]
}

/** Why a choice may not be given in a project: it is retired, or a label or component of another project. */
function whyNotOffered(
  world: World,
  domain: Domain,
  id: string,
  project: Project,
): string | undefined {
  const choice = world.vocabulary.choice(domain, id)
  if (choice?.retired)
    return `“${choice.title}” is retired; it stays where it is and is no longer given.`
  const label = domain === 'label' ? world.labelOf.get(id) : undefined
  if (label?.project && label.project !== project.id)
    return `the label “${label.title}” belongs to another project.`
  const component =
    domain === 'component' ? world.components.find((one) => one.id === id) : undefined
  if (component && component.project !== project.id)
    return `“${component.title}” belongs to another project.`
  return undefined
}

/** Why a value may not be given, where it is not held already. */
function retiredIn(
  world: World,
  { type }: Property,
  value: FactValue,
  held: unknown,
  project: Project,
): string | undefined {
  if ((type.kind !== 'choice' && type.kind !== 'array') || type.domain === 'item') return undefined
  const { domain } = type
  const before = (Array.isArray(held) ? held : [held]).map((number) =>
    world.numbers.identity(domain, number as number),
  )
  return listOf(value)
    .filter((id) => !before.includes(id))
    .map((id) => whyNotOffered(world, domain, id, project))
    .find((why) => why !== undefined)
}

/** A held value as its column keeps it: choices by number, several in ascending order, a parent by its row. */
async function stored(
  database: Sequelize,
  actor: ActorContext,
  property: Property,
  held: FactValue,
  project: Project,
): Promise<unknown> {
  const { numbers } = actor.world
  if (property.type.kind === 'array')
    return (held as readonly string[])
      .map((id) => numbers.of((property.type as { domain: 'label' }).domain, id)!)
      .sort((a, b) => a - b)
  if (held === null) return null
  if (property.type.kind === 'timestamp') return new Date(held as number)
  if (property.type.kind !== 'choice') return held
  if (property.type.domain === 'item') return await parentId(database, actor, String(held))
  const number = numbers.of(property.type.domain, String(held))!
  if (
    property.handle === 'priority' &&
    actor.world.vocabulary.rungOf(project.id, String(held)) === null
  )
    throw new Error(
      `The priority “${actor.world.vocabulary.choice('priority', String(held))?.title}” is not on the ladder of ${project.title}.`,
    )
  return number
}

/** Of a family that is pick one, the label given last replaces the ones before. */
export function pickOne(
  world: World,
  labels: readonly number[],
  before: readonly number[],
): number[] {
  const family = (number: number): string | null =>
    world.labels.find((label) => label.number === number)?.family ?? null
  const single = (id: string | null): boolean =>
    id !== null && world.document.families[id]?.pick === 'one'
  const fresh = labels.filter((label) => !before.includes(label))
  const kept = new Map<string, number>()
  for (const label of [...labels.filter((one) => before.includes(one)), ...fresh])
    if (single(family(label))) kept.set(family(label)!, label)
  return labels.filter((label) => !single(family(label)) || kept.get(family(label)!) === label)
}
