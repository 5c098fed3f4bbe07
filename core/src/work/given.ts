import { asRecord, asTexts } from '../known/index.ts'
import type { Field } from '../definitions/document/entries.ts'
import { fieldKind } from '../definitions/document/fieldKinds.ts'
import type { Facts, FactValue } from '../queries/tree/facts.ts'
import type { Release, Vocabulary } from '../queries/tree/vocabulary.ts'
import type { Domain, Property } from '../queries/tree/checked.ts'
import type { Ground } from './ground.ts'
import type { WrongPart } from './refusal.ts'
import type { WorkRules } from './rules.ts'
import { givenHandles } from './schema.ts'
import { readValue, type Rules } from './value.ts'

export type Given = Readonly<Record<string, unknown>>

/** What was given of an item, by handle, as items hold it; and all of it that is wrong. */
export interface ReadGiven {
  readonly values: Facts
  readonly wrong: readonly WrongPart[]
}

/** One value that was given: where it stands, and whether it stands beside the fields or among them. */
interface GivenValue {
  readonly handle: string
  readonly raw: unknown
  readonly pointer: string
  readonly amongFields: boolean
}

/** What was given, value by value. */
function valuesGiven(given: Given): GivenValue[] {
  const { fields = {}, ...builtIn } = given
  return [
    ...Object.entries(builtIn).map(([handle, raw]) => ({
      handle,
      raw,
      pointer: `/${handle}`,
      amongFields: false,
    })),
    ...Object.entries(asRecord(fields)).map(([handle, raw]) => ({
      handle,
      raw,
      pointer: `/fields/${handle}`,
      amongFields: true,
    })),
  ]
}

/** Why nothing can be given at a place, whatever it is; undefined where something can. */
function whyNotGiven(
  property: Property | undefined,
  { handle, pointer, amongFields }: GivenValue,
): WrongPart | undefined {
  if (property?.builtIn && amongFields)
    return {
      pointer,
      message: `${property.title} is no custom field; it stands beside “fields”.`,
      expected: 'a custom field by its handle',
      found: handle,
    }
  if (property?.builtIn && !givenHandles.has(handle))
    return {
      pointer,
      message: `${property.title} follows from what happens to an item; it cannot be given.`,
      expected: 'a custom field by its handle',
      found: handle,
    }
  if (!property || amongFields === property.builtIn)
    return {
      pointer,
      message: `There is no field “${handle}”.`,
      expected: 'a handle',
      found: handle,
    }
  return undefined
}

/** How many characters a long text may have, and an address. */
const longTexts = 20_000

/** What rules a value of a custom field must meet beside its kind. */
function rulesOf(field: Field | undefined): Rules {
  if (!field) return { longest: longTexts }
  const { decimals, smallest, largest, pattern } = field
  const { long, webAddress } = fieldKind(field.kind)
  return {
    decimals,
    smallest,
    largest,
    pattern,
    webAddress: webAddress === true,
    longest: long || webAddress ? longTexts : 1000,
  }
}

/** A value as items hold it, or what is wrong with it. */
function valueHeld(
  rules: WorkRules,
  { handle, raw, pointer }: GivenValue,
  property: Property,
): { readonly value: FactValue } | { readonly wrong: WrongPart } {
  const limits = handle === 'title' ? { longest: 300 } : rulesOf(rules.fields.get(handle))
  const reading = readValue(property, limits, raw, rules.vocabulary)
  if (!reading.ok) {
    const { message, expected, found } = reading
    return { wrong: { pointer, message, expected, found } }
  }
  if (handle === 'title' && reading.value === null)
    return { wrong: { pointer, message: 'An item needs a title.', expected: 'a title' } }
  return { value: reading.value }
}

const listOf = (value: FactValue): readonly string[] => {
  if (Array.isArray(value)) return asTexts(value)
  return value === null ? [] : [String(value)]
}

/** Why a choice may not be given in a project: it is retired, or a label, component or release of others. */
function whyNotOffered(
  { vocabulary, labels, components }: WorkRules,
  domain: Domain,
  id: string,
  project: string,
): string | undefined {
  const choice = vocabulary.choice(domain, id)
  if (choice?.retired)
    return `“${choice.title}” is retired; it stays where it is and is no longer given.`
  const label = domain === 'label' ? labels.get(id) : undefined
  if (label?.project && label.project !== project)
    return `the label “${label.title}” belongs to another project.`
  const component = domain === 'component' ? components.get(id) : undefined
  if (component && component.project !== project)
    return `“${component.title}” belongs to another project.`
  const release = domain === 'release' ? releaseOf(vocabulary, id) : undefined
  if (release && !release.projects.includes(project))
    return `“${choice?.title}” is a release of other projects.`
  return undefined
}

const releaseOf = ({ releases }: Vocabulary, id: string): Release | undefined =>
  releases.find((release) => release.id === id)

/** Why a value may not be given, where it is not held already. */
function whyNotNew(
  rules: WorkRules,
  { type, title }: Property,
  value: FactValue,
  held: FactValue,
  project: string,
): Omit<WrongPart, 'pointer'> | undefined {
  if ((type.kind !== 'choice' && type.kind !== 'array') || type.domain === 'item') return undefined
  const before = listOf(held)
  const why = listOf(value)
    .filter((id) => !before.includes(id))
    .map((id) => whyNotOffered(rules, type.domain, id, project))
    .find((entry) => entry !== undefined)
  return why === undefined
    ? undefined
    : { message: `${title}: ${why}`, expected: 'a value that is offered' }
}

/** Why a value does not fit its place: a parent that is not there, a priority that is not on the ladder. */
function whyNotThere(
  { vocabulary, projects }: WorkRules,
  ground: Ground,
  { handle }: Property,
  value: FactValue,
  project: string,
): Omit<WrongPart, 'pointer'> | undefined {
  if (value === null) return undefined
  if (handle === 'parent' && !ground.relative(String(value))?.visible)
    return {
      message: `There is no item ${String(value)}, or you may not see it.`,
      expected: 'the ref of an item',
    }
  if (handle === 'priority' && vocabulary.rungOf(project, String(value)) === null)
    return {
      message: `The priority “${vocabulary.choice('priority', String(value))?.title ?? ''}” is not on the ladder of ${projects.get(project)?.title ?? project}.`,
    }
  return undefined
}

/**
 * Reads what was given of an item; every value that does not fit is told, each with its place.
 *
 * @param given what was given, custom fields under `fields`; the project and the position have their own readers
 * @param held  what the item holds, which may stay though it is no longer offered; nothing of a new one
 */
export function readGiven(
  rules: WorkRules,
  ground: Ground,
  given: Given,
  project: string,
  held: Facts = {},
): ReadGiven {
  const values: Record<string, FactValue> = {}
  const wrong: WrongPart[] = []
  for (const givenValue of valuesGiven(given)) {
    const { handle, pointer } = givenValue
    const property = rules.vocabulary.properties.get(handle)
    const misplaced = whyNotGiven(property, givenValue)
    if (misplaced || !property) {
      if (misplaced) wrong.push(misplaced)
      continue
    }
    const read = valueHeld(rules, givenValue, property)
    if ('wrong' in read) {
      wrong.push(read.wrong)
      continue
    }
    const why =
      whyNotNew(rules, property, read.value, held[handle] ?? null, project) ??
      whyNotThere(rules, ground, property, read.value, project)
    if (why) wrong.push({ pointer, ...why })
    else values[handle] = read.value
  }
  return { values, wrong }
}
