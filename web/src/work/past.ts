import type { ItemAnswer, PropertyAnswer } from '@bluestem/core/queries'
import { heldIds } from '../parts/heldIds.ts'
import { valueOf } from '../parts/valueOf.ts'
import { changeable } from './manyParts.ts'

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
    .filter((one) => {
      const [was, is] = [held(one.then), held(one.now)]
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
