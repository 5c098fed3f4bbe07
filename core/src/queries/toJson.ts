import type { Filter, Scalar } from './tree/tree.ts'
import { numberJson } from './jsonNumber.ts'

/** CQL2 JSON as it travels: see OGC 21-065r2, the JSON encoding. */
export type Cql2Json =
  boolean | number | string | null | Cql2Json[] | { readonly [key: string]: Cql2Json }

/** Writes a filter as CQL2 JSON. Brackets, case and spacing of the text are gone; the meaning is the same. */
export function toJson(filter: Filter): Cql2Json {
  switch (filter.kind) {
    case 'and':
    case 'or':
      return { op: filter.kind, args: filter.args.map(toJson) }
    case 'not':
      return { op: 'not', args: [toJson(filter.arg)] }
    case 'truth':
      return filter.value
    case 'compare':
      return { op: filter.op, args: [scalarJson(filter.left), scalarJson(filter.right)] }
    case 'like':
      return { op: 'like', args: [scalarJson(filter.value), scalarJson(filter.pattern)] }
    case 'between':
      return { op: 'between', args: [filter.value, filter.low, filter.high].map(scalarJson) }
    case 'in':
      return { op: 'in', args: [scalarJson(filter.value), filter.list.map(scalarJson)] }
    case 'isNull':
      return { op: 'isNull', args: [scalarJson(filter.value)] }
    case 'array':
    case 'temporal':
      return { op: filter.op, args: [scalarJson(filter.left), scalarJson(filter.right)] }
    case 'call':
      return scalarJson(filter)
  }
}

function scalarJson(scalar: Scalar): Cql2Json {
  switch (scalar.kind) {
    case 'property':
      return { property: scalar.name }
    case 'text':
    case 'boolean':
      return scalar.value
    case 'number':
      return numberJson(scalar.value)
    case 'date':
      return { date: scalar.value }
    case 'timestamp':
      return { timestamp: scalar.value }
    case 'interval':
      return {
        interval: [scalar.start, scalar.end].map((end) =>
          end === null
            ? '..'
            : end.kind === 'date' || end.kind === 'timestamp'
              ? end.value
              : scalarJson(end),
        ),
      }
    case 'array':
      return scalar.items.map(scalarJson)
    case 'arithmetic':
      return { op: scalar.op, args: [scalarJson(scalar.left), scalarJson(scalar.right)] }
    case 'fold':
      return { op: scalar.fold, args: [scalarJson(scalar.value)] }
    case 'call':
      return { op: scalar.name.toLowerCase(), args: scalar.args.map(scalarJson) }
    case 'condition':
      return toJson(scalar.filter)
  }
}
