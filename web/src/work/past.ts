import type { ItemAnswer, VocabularyAnswer } from '@bluestem/core/queries'
import { heldIds } from '../parts/heldIds.ts'
import { valueOf } from '../parts/valueOf.ts'

type Property = VocabularyAnswer['properties'][number]

/** A field that held something else at an earlier moment. */
export interface PastDifference {
  readonly property: Property
  readonly then: unknown
  readonly now: unknown
}

/** What is not given to an item but follows from what is, or from where it stands. */
const notGiven: ReadonlySet<string> = new Set(['ref', 'project', 'hold_reason'])
const builtIns: ReadonlySet<string> = new Set([
  'title',
  'description',
  'type',
  'status',
  'priority',
  'assignee',
  'parent',
  'labels',
  'components',
  'iteration',
  'release',
  'estimate',
  'remaining',
  'start',
  'due',
  'on_hold',
])

const isGiven = ({ handle, builtIn, computedBy }: Property): boolean =>
  !notGiven.has(handle) && (builtIn ? builtIns.has(handle) : computedBy === undefined)

const held = (value: unknown): string =>
  JSON.stringify(Array.isArray(value) ? heldIds(value) : (heldIds(value)[0] ?? null))

/** The fields that are given to an item and held something else than they do now. */
export const differencesOf = (
  then: ItemAnswer,
  now: ItemAnswer,
  properties: readonly Property[],
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
  { handle, builtIn, type }: Property,
  value: unknown,
): Record<string, unknown> {
  const ids = value === null ? [] : heldIds(value)
  const given = type.kind === 'array' ? ids : (ids[0] ?? null)
  return builtIn ? { [handle]: given } : { fields: { [handle]: given } }
}
