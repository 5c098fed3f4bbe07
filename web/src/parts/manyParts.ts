import { asTexts } from '@bluestem/core/known'
import type { BulkChange } from '@bluestem/core/bulk'
import type { PropertyAnswer } from '@bluestem/core/queries'

/** What happens to the values of a field: all get one, none stays, or some are added or taken away where several are held. */
export type How = 'becomes' | 'empty' | 'add' | 'remove'

/** One field of a change of many items. */
export interface Part {
  handle: string
  how: How
  value: unknown
}

/** The built-in fields that many items can be given at once. */
const builtIn: ReadonlySet<string> = new Set([
  'status',
  'type',
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
  'hold_reason',
] satisfies (keyof NonNullable<BulkChange['set']>)[])

/** Whether many items can be given a value of a field at once. */
export const changeable = (property: PropertyAnswer): boolean =>
  property.builtIn ? builtIn.has(property.handle) : !property.computedBy

interface Offered {
  readonly id: How
  readonly title: string
}
const becomes: Offered = { id: 'becomes', title: 'becomes' }
const empty: Offered = { id: 'empty', title: 'is emptied' }
const several: readonly Offered[] = [
  { id: 'add', title: 'also holds' },
  { id: 'remove', title: 'holds no more' },
  { id: 'becomes', title: 'holds just' },
  empty,
]

/** What can happen to a field of this kind. */
export function howsFor(property: PropertyAnswer | undefined): readonly Offered[] {
  if (property?.type.kind === 'array') return several
  return property?.nullable ? [becomes, empty] : [becomes]
}

const isGiven = ({ how, value }: Part): boolean =>
  how === 'empty' ||
  !(value === null || value === '' || (Array.isArray(value) && value.length === 0))

/** The change that parts make together; what has no value yet is no part of it. */
export function bulkChangeOf(
  parts: readonly Part[],
  property: (handle: string) => PropertyAnswer | undefined,
): BulkChange {
  const given = parts.filter(isGiven)
  const of = (...hows: How[]): Part[] => given.filter(({ how }) => hows.includes(how))
  const lists = (how: How): Record<string, string[]> =>
    Object.fromEntries(of(how).map(({ handle, value }) => [handle, [...asTexts(value)]]))
  const valueOf = ({ handle, how, value }: Part): [string, unknown] => [
    handle,
    how === 'empty' ? (property(handle)?.type.kind === 'array' ? [] : null) : value,
  ]
  const isBuiltIn = ({ handle }: Part): boolean => property(handle)?.builtIn ?? true
  const sets = of('becomes', 'empty')
  const fields = sets.filter((part) => !isBuiltIn(part)).map(valueOf)
  const set = {
    ...Object.fromEntries(sets.filter(isBuiltIn).map(valueOf)),
    ...(fields.length > 0 ? { fields: Object.fromEntries(fields) } : {}),
  }
  const [add, remove] = [lists('add'), lists('remove')]
  return {
    ...(Object.keys(set).length > 0 ? { set } : {}),
    ...(Object.keys(add).length > 0 ? { add } : {}),
    ...(Object.keys(remove).length > 0 ? { remove } : {}),
  }
}
