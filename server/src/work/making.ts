import { dayOf } from '@bluestem/core/calendar'
import {
  defaultValue,
  entriesOf,
  formOf,
  inOrder,
  offeredOf,
  typesOf,
} from '@bluestem/core/definitions'
import { fieldTitle, isShown } from '@bluestem/core/work'
import type { Project, World } from '../workspace/world.ts'
import { invalid } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { holdsSomething } from './entering.ts'
import type { ReadValues } from './given.ts'

type Given = Readonly<Record<string, unknown>>

/** What is given of a new item with what its definitions give where nothing is said: defaults of fields, and the keeper of its component. */
export function standardValues(
  { world, person, now }: ActorContext,
  rulebook: string,
  project: Project,
  given: Given,
): Record<string, unknown> {
  const type = typesOf(world.document, rulebook).find(
    (id) => id === idOf(given['type']) || world.document.types[id]!.title === given['type'],
  )
  if (!type) return { ...given }
  const fields = { ...(given['fields'] as Given | undefined) }
  const onForms = new Set(
    [
      ...formOf(world.document, rulebook, type, 'item'),
      ...formOf(world.document, rulebook, type, 'make'),
    ].map((one) => one.field),
  )
  for (const field of inOrder(world.document.fields)) {
    if (!onForms.has(field.id) || field.handle in fields) continue
    const value = defaultValue(field, {
      today: dayOf(now.getTime(), world.zone),
      zone: world.zone,
      me: person.id,
    })
    if (value !== undefined) fields[field.handle] = value
  }
  const keeper = 'assignee' in given ? undefined : keeperGiven(world, project, given['components'])
  return {
    ...given,
    ...(Object.keys(fields).length > 0 ? { fields } : {}),
    ...(keeper ? { assignee: keeper } : {}),
  }
}

const idOf = (value: unknown): unknown =>
  value !== null && typeof value === 'object' && 'id' in value ? value.id : value

function keeperGiven(world: World, project: Project, components: unknown): string | undefined {
  for (const given of Array.isArray(components) ? components : []) {
    const component = world.components.find(
      (one) => one.project === project.id && (one.id === idOf(given) || one.title === idOf(given)),
    )
    if (component?.keeper) return component.keeper
  }
  return undefined
}

/** The number of the keeper of the first of several components that has one. */
export function keeperOf(world: World, components: readonly number[]): number | undefined {
  const keeper = components
    .map((number) => world.components.find((one) => one.number === number)?.keeper)
    .find(Boolean)
  return keeper ? world.numbers.of('person', keeper) : undefined
}

/** @throws Problem 400 that names every field the form requires and that is empty */
export function judgeRequired(
  world: World,
  rulebook: string,
  type: string,
  { values, description }: ReadValues,
): void {
  const row = { ...values, description }
  const missing = formOf(world.document, rulebook, type, 'make').filter(
    (one) =>
      one.required &&
      isShown(one.shownWhen, (field) => heldIn(world, row, field)) &&
      !holdsSomething(world, row, one.field),
  )
  if (missing.length > 0)
    throw invalid(
      missing.map(({ field }) => ({
        pointer: world.document.fields[field]
          ? `/fields/${world.document.fields[field].handle}`
          : `/${field}`,
        message: `${fieldTitle(world.document, field)} must be filled when ${world.document.types[type]!.title} is made.`,
        expected: 'a value',
      })),
    )
}

/** The values a row holds in a field, choices by identity. */
function heldIn(world: World, row: Readonly<Record<string, unknown>>, field: string): unknown[] {
  const property = world.vocabulary.properties.get(world.document.fields[field]?.handle ?? field)
  const number = world.numbers.of('field', field)
  const held = row[number === undefined ? field : `f${number}`]
  if (!property || held === null || held === undefined) return []
  const { type } = property
  return type.kind === 'choice' || type.kind === 'array'
    ? (Array.isArray(held) ? held : [held]).map((one) =>
        world.numbers.identity(type.domain, one as number),
      )
    : [held]
}

/** @throws Problem 400 that names the families of which an item of a type must hold a label */
export function judgeFamilies(
  world: World,
  rulebook: string,
  type: string,
  labels: readonly number[],
): void {
  const entries = entriesOf(world.document, rulebook)
  const held = new Set(
    labels.map((number) => world.labels.find((label) => label.number === number)?.family),
  )
  const missing = offeredOf(world.document, rulebook, 'family').filter(
    (family) => entries.get(`family:${family}`)?.requiredFor?.includes(type) && !held.has(family),
  )
  if (missing.length > 0)
    throw invalid(
      missing.map((family) => ({
        pointer: '/labels',
        message: `${world.document.types[type]!.title} needs a label of “${world.document.families[family]?.title}”.`,
        expected: world.labels
          .filter((label) => label.family === family && !label.retired)
          .map((label) => label.title)
          .slice(0, 10)
          .join(', '),
      })),
    )
}
