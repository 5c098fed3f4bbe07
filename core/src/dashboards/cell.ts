import type { Cql2Json } from '../queries/toJson.ts'
import type { Property } from '../queries/tree/checked.ts'

/**
 * The filter whose answers are exactly the items behind one cell of a measure's answer: the measure's own filter
 * (kept, with identities) and the value of the grouping. Under a moment, ask it *as of* the step's end.
 */
export function cellFilter(filter: unknown, by: Property | undefined, key: string | null): unknown {
  if (!by) return filter
  const property = { property: by.handle }
  const part: Cql2Json =
    key === null
      ? { op: 'isNull', args: [property] }
      : by.type.kind === 'array'
        ? { op: 'a_contains', args: [property, [key]] }
        : { op: '=', args: [property, literal(by, key)] }
  return filter === true ? part : { op: 'and', args: [filter, part] }
}

function literal(by: Property, key: string): Cql2Json {
  switch (by.type.kind) {
    case 'number':
      return { op: 'decimal', args: [key] }
    case 'boolean':
      return key === 'true'
    case 'date':
    case 'timestamp':
      return { date: key }
    default:
      return key
  }
}
