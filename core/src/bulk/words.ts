import type { FactValue } from '../queries/facts.ts'
import type { Vocabulary } from '../queries/vocabulary.ts'
import { showHeld } from '../work/history.ts'
import { listed } from '../language/listed.ts'
import type { BulkChange } from './schema.ts'

/** A change of many items in words, a sentence for each thing it does, in the order of the fields. */
export function bulkInWords(change: BulkChange, vocabulary: Vocabulary, zone: string): string[] {
  const { set: { fields = {}, comment, ...builtIn } = {}, add = {}, remove = {} } = change
  const title = (handle: string): string => vocabulary.properties.get(handle)?.title ?? handle
  const shown = (handle: string, value: unknown): string => {
    const property = vocabulary.properties.get(handle)
    const held = typeof value === 'number' ? String(value) : (value as FactValue)
    return property ? showHeld(property, held, vocabulary, zone) : String(value)
  }
  const all = (handle: string, ids: readonly string[]): string =>
    listed(ids.map((id) => `“${shown(handle, id)}”`))
  const order = [...vocabulary.properties.keys()]
  const given = Object.entries<unknown>({ ...builtIn, ...fields }).sort(
    ([a], [b]) => order.indexOf(a) - order.indexOf(b),
  )
  const sets = given.map(([handle, value]) => {
    if (value === null || value === '' || (Array.isArray(value) && value.length === 0))
      return `${title(handle)} is emptied`
    const values = Array.isArray(value) ? (value as readonly string[]) : [value]
    return `${title(handle)} becomes ${listed(values.map((one) => `“${shown(handle, one)}”`))}`
  })
  return [
    ...(change.delete ? ['They go to the bin'] : []),
    ...sets,
    ...Object.entries(add).map(([handle, ids]) => `${title(handle)}: ${all(handle, ids)} added`),
    ...Object.entries(remove).map(
      ([handle, ids]) => `${title(handle)}: ${all(handle, ids)} taken away`,
    ),
    ...(comment === undefined ? [] : [`“${comment}” is said with it`]),
  ]
}
