import { type Field, isComputed } from '@bluestem/core/definitions'
import type { Held, Property } from '@bluestem/core/queries'
import { givenHandles, readValue, type Rules } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { columnTypes } from '../items/columns.ts'
import type { Project, World } from '../workspace/world.ts'
import { invalid, type Wrong } from '../problems/problem.ts'
import { columnOf } from '../sql/property.ts'
import type { Asking } from '../sql/statement.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Row } from './row.ts'
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

export interface Reading {
  readonly values: Record<string, unknown>
  readonly types: Record<string, string>
  readonly description?: string | null
}

/** Reads what was given of an item into columns; every value that does not fit is told, each with its place. */
export async function readValues(
  database: Sequelize,
  acting: ActorContext,
  given: Record<string, unknown>,
  project: Project,
  held: Row = {},
): Promise<Reading> {
  const { world } = acting
  const values: Record<string, unknown> = {}
  const types: Record<string, string> = {}
  const wrong: Wrong[] = []
  let description: string | null | undefined
  const take = async (
    handle: string,
    raw: unknown,
    pointer: string,
    own: boolean,
  ): Promise<void> => {
    const property = world.vocabulary.properties.get(handle)
    if (property?.builtIn && (!own || !givenHandles.has(handle)))
      return void wrong.push({
        pointer,
        message: own
          ? `${property.title} follows from what happens to an item; it cannot be given.`
          : `${property.title} is no custom field; it stands beside “fields”.`,
        expected: 'a custom field by its handle',
        found: handle,
      })
    if (!property || own !== property.builtIn)
      return void wrong.push({
        pointer,
        message: `There is no field “${handle}”.`,
        expected: 'a handle',
        found: handle,
      })
    const field = fieldByHandle(world, handle)
    const reading = readValue(
      property,
      handle === 'title' ? { longest: 300 } : rulesOf(field?.[1]),
      raw,
      world.vocabulary,
    )
    if (!reading.ok)
      return void wrong.push({
        pointer,
        message: reading.message,
        expected: reading.expected,
        found: reading.found,
      })
    if (handle === 'title' && reading.value === null)
      return void wrong.push({ pointer, message: 'An item needs a title.', expected: 'a title' })
    if (handle === 'description') return void (description = reading.value as string | null)
    const column = columnOf({ world } as Asking, property)!
    const retired = retiredIn(world, property, reading.value, held[column], project)
    if (retired)
      return void wrong.push({
        pointer,
        message: `${property.title}: ${retired}`,
        expected: 'a value that is offered',
      })
    try {
      values[column] = await stored(database, acting, property, reading.value, project)
    } catch (error) {
      return void wrong.push({ pointer, message: (error as Error).message })
    }
    if (field && !isComputed(field[1].kind))
      types[column] = columnTypes[field[1].kind as keyof typeof columnTypes].replace(
        / COLLATE.*| NOT NULL.*/,
        '',
      )
  }
  for (const [handle, raw] of Object.entries(given)) {
    if (handle === 'fields')
      for (const [custom, value] of Object.entries(raw as Record<string, unknown>))
        await take(custom, value, `/fields/${custom}`, false)
    else if (!['project', 'position'].includes(handle)) await take(handle, raw, `/${handle}`, true)
  }
  if (wrong.length > 0) throw invalid(wrong)
  return { values, types, ...(description === undefined ? {} : { description }) }
}

/** Why a value that is not held already may not be given: it is retired, or a label or component of another project. */
function retiredIn(
  world: World,
  { type }: Property,
  value: Held,
  held: unknown,
  project: Project,
): string | undefined {
  if ((type.kind !== 'choice' && type.kind !== 'array') || type.domain === 'item') return undefined
  const before = (Array.isArray(held) ? held : [held]).map((number) =>
    world.numbers.identity(type.domain, number as number),
  )
  for (const id of Array.isArray(value)
    ? (value as readonly string[])
    : value === null
      ? []
      : [String(value)]) {
    if (before.includes(id)) continue
    const choice = world.vocabulary.choice(type.domain, id)
    if (choice?.retired)
      return `“${choice.title}” is retired; it stays where it is and is no longer given.`
    const label = type.domain === 'label' ? world.labelOf.get(id) : undefined
    if (label?.project && label.project !== project.id)
      return `the label “${label.title}” belongs to another project.`
    const component =
      type.domain === 'component' ? world.components.find((one) => one.id === id) : undefined
    if (component && component.project !== project.id)
      return `“${component.title}” belongs to another project.`
  }
  return undefined
}

/** A held value as its column keeps it: choices by number, several in ascending order, a parent by its row. */
async function stored(
  database: Sequelize,
  acting: ActorContext,
  property: Property,
  held: Held,
  project: Project,
): Promise<unknown> {
  const { numbers } = acting.world
  if (property.type.kind === 'array')
    return (held as readonly string[])
      .map((id) => numbers.of((property.type as { domain: 'label' }).domain, id)!)
      .sort((a, b) => a - b)
  if (held === null) return null
  if (property.type.kind === 'timestamp') return new Date(held as number)
  if (property.type.kind !== 'choice') return held
  if (property.type.domain === 'item') return await parentId(database, acting, String(held))
  const number = numbers.of(property.type.domain, String(held))!
  if (
    property.handle === 'priority' &&
    acting.world.vocabulary.rungOf(project.id, String(held)) === null
  )
    throw new Error(
      `The priority “${acting.world.vocabulary.choice('priority', String(held))?.title}” is not on the ladder of ${project.title}.`,
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
