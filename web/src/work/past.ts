import type { ItemAnswer, PropertyAnswer } from '@bluestem/core/queries'
import { heldIds } from '../parts/heldIds.ts'
import { valueOf } from '../parts/valueOf.ts'
import type { ItemGiven } from './changing.ts'
import { changeable } from '../parts/manyParts.ts'

/** A field that held something else at an earlier moment. */
export interface PastDifference {
  readonly property: PropertyAnswer
  readonly then: unknown
  readonly now: unknown
}

/** Whether a field is given to an item, and does not follow from others or from where it stands. */
const isGiven = (property: PropertyAnswer): boolean =>
  ['title', 'description'].includes(property.handle) ||
  (changeable(property) && property.handle !== 'hold_reason')

/** A change back, and what is changed back. */
export interface ChangeBack {
  readonly given: ItemGiven
  readonly seen: ItemGiven
}

/**
 * What takes one change of an item back: every value that it changed as it was before, as long as nobody changed the same since.
 *
 * @param before the item as it was before the change
 * @param after  the item as the change left it
 * @param now    the item as it is
 */
export function changeBack(
  before: ItemAnswer,
  after: ItemAnswer,
  now: ItemAnswer,
  properties: readonly PropertyAnswer[],
): ChangeBack | undefined {
  const changed = differencesOf(before, after, properties)
  const isAgain = changed.some(
    ({ property, now: was }) => held(was) !== held(valueOf(now, property.handle) ?? null),
  )
  if (changed.length === 0 || isAgain) return undefined
  const holds = changed.some(({ property }) => property.handle === 'on_hold')
  const reason = before['hold_reason']
  const all = (side: 'then' | 'now'): ItemGiven =>
    together(
      changed.map((pastDifference) => givingOf(pastDifference.property, pastDifference[side])),
    )
  return {
    given: {
      ...all('then'),
      ...(holds && typeof reason === 'string' ? { hold_reason: reason } : {}),
    },
    seen: all('now'),
  }
}

/** Several changes as one. */
function together(changes: readonly ItemGiven[]): ItemGiven {
  const fields = changes.reduce((all, change) => ({ ...all, ...change.fields }), {})
  const builtIn = changes.reduce<ItemGiven>((all, change) => ({ ...all, ...change }), {})
  return Object.keys(fields).length > 0 ? { ...builtIn, fields: { ...fields } } : builtIn
}

const held = (value: unknown): string =>
  JSON.stringify(Array.isArray(value) ? heldIds(value) : (heldIds(value)[0] ?? null))

/** The fields that are given to an item and held something else than they do now. */
export const differencesOf = (
  then: ItemAnswer,
  now: ItemAnswer,
  properties: readonly PropertyAnswer[],
): PastDifference[] =>
  properties
    .filter(isGiven)
    .map((property) => ({
      property,
      then: valueOf(then, property.handle) ?? null,
      now: valueOf(now, property.handle) ?? null,
    }))
    .filter((entry) => {
      const [was, is] = [held(entry.then), held(entry.now)]
      return was !== is && !(was === '[]' && is === 'null') && !(was === 'null' && is === '[]')
    })

/** A change that gives a field a value which an answer showed. */
export function givingOf(
  { handle, builtIn, type }: PropertyAnswer,
  value: unknown,
): Record<string, unknown> {
  const ids = value === null ? [] : heldIds(value)
  const given = type.kind === 'array' ? ids : (ids[0] ?? null)
  return builtIn ? { [handle]: given } : { fields: { [handle]: given } }
}
