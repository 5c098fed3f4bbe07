import { asRecord, valueFor } from '../known/index.ts'
import type { QueryNames } from '../queries/tree/vocabulary.ts'
import { readValue } from '../work/value.ts'
import type { RowGiven } from './row.ts'

/** A value that rows give a field and that is not among its choices, but could be made one. */
export interface UnknownChoice {
  readonly handle: string
  readonly domain: 'label' | 'component' | `option:${string}`
  readonly value: string
  /** how many rows give it */
  readonly rows: number
}

const canBeMade = (domain: string): domain is UnknownChoice['domain'] =>
  domain === 'label' || domain === 'component' || domain.startsWith('option:')

const valuesOf = ({ given }: RowGiven): [string, unknown][] => {
  const { fields = {}, ...builtIn } = given
  return [...Object.entries(builtIn), ...Object.entries(asRecord(fields))]
}

/** The labels, components and options that rows name and that there are not, the most frequent first. */
export function unknownChoices(
  rows: readonly RowGiven[],
  vocabulary: QueryNames,
): readonly UnknownChoice[] {
  const counts = new Map<
    string,
    { readonly handle: string; readonly value: string; rows: number }
  >()
  for (const row of rows)
    for (const [handle, given] of valuesOf(row)) {
      const type = vocabulary.properties.get(handle)?.type
      if ((type?.kind !== 'choice' && type?.kind !== 'array') || !canBeMade(type.domain)) continue
      for (const value of [given].flat()) {
        const key = JSON.stringify([handle, value])
        const known = counts.get(key) ?? { handle, value: String(value), rows: 0 }
        known.rows += 1
        counts.set(key, known)
      }
    }
  const found = [...counts.values()].flatMap(({ handle, value, rows: count }): UnknownChoice[] => {
    const property = valueFor(vocabulary.properties, handle)
    const { type } = property
    if (type.kind !== 'choice' && type.kind !== 'array') return []
    const read = readValue(property, {}, type.kind === 'array' ? [value] : value, vocabulary)
    return read.ok || !canBeMade(type.domain)
      ? []
      : [{ handle, domain: type.domain, value, rows: count }]
  })
  return found.sort((a, b) => b.rows - a.rows || (a.value < b.value ? -1 : 1))
}
