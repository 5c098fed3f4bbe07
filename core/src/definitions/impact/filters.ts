import { asRecord, firstIn } from '../../known/index.ts'

/** The operation of a filter as CQL2 JSON writes it, and its arguments. */
export function operationOf(filter: unknown): { op: unknown; args: readonly unknown[] } {
  const { op, args } = asRecord(filter)
  return { op, args: Array.isArray(args) ? args : [] }
}

/** One filter for whatever meets any of several, each once; values of one property stand in one list. */
export function anyOf(filters: readonly unknown[]): unknown {
  const values = new Map<string, Set<string>>()
  const others = new Map<string, unknown>()
  for (const filter of filters) {
    const { op, args } = operationOf(filter)
    const property = asRecord(args[0])['property']
    if (op === 'or') for (const arg of args) others.set(JSON.stringify(arg), arg)
    else if (typeof property === 'string' && op === '=' && typeof args[1] === 'string')
      values.set(property, (values.get(property) ?? new Set()).add(args[1]))
    else others.set(JSON.stringify(filter), filter)
  }
  const parts = [
    ...[...values].map(([property, set]) => within(property, [...set])),
    ...others.values(),
  ]
  return parts.length === 1 ? parts[0] : { op: 'or', args: parts }
}

export const equals = (property: string, value: string): unknown => ({
  op: '=',
  args: [{ property }, value],
})

export const all = (...args: readonly unknown[]): unknown =>
  args.length === 1 ? args[0] : { op: 'and', args }

export const within = (property: string, values: readonly string[]): unknown =>
  values.length === 1
    ? equals(property, firstIn(values))
    : { op: 'in', args: [{ property }, values] }

export const isSet = (property: string): unknown => ({
  op: 'not',
  args: [{ op: 'isNull', args: [{ property }] }],
})

export const contains = (property: string, value: string): unknown => ({
  op: 'a_contains',
  args: [{ property }, [value]],
})

export const hasBeenIn = (statuses: readonly string[]): unknown[] =>
  statuses.map((status) => ({
    op: '>',
    args: [{ op: 'days_in', args: [{ property: 'status' }, status] }, 0],
  }))

export const either = (parts: readonly unknown[]): unknown =>
  parts.length === 1 ? parts[0] : { op: 'or', args: parts }
