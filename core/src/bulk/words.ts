import type { Vocabulary } from '../queries/tree/vocabulary.ts'
import { showHeld } from '../work/history.ts'
import { readValue } from '../work/value.ts'
import { listed } from '../language/listed.ts'
import type { BulkChange } from './schema.ts'

/** A change of many items in words, a sentence for each thing it does, in the order of the fields. */
export function bulkInWords(change: BulkChange, vocabulary: Vocabulary, zone: string): string[] {
  const { set: { fields = {}, comment, ...builtIn } = {}, add = {}, remove = {} } = change
  const title = (handle: string): string => vocabulary.properties.get(handle)?.title ?? handle
  /** What cannot be read as the field’s stands as it was written; why it is refused is told for each item. */
  const shown = (handle: string, value: unknown): string => {
    const property = vocabulary.properties.get(handle)
    const isOne = property?.type.kind === 'array' && !Array.isArray(value)
    const asWritten = typeof value === 'string' ? value : JSON.stringify(value)
    if (!property) return asWritten
    const read = readValue(property, {}, isOne ? [value] : value, vocabulary)
    return read.ok ? showHeld(property, read.value, vocabulary, zone) : asWritten
  }
  const all = (handle: string, values: readonly unknown[]): string =>
    listed(values.map((value) => `“${shown(handle, value)}”`))
  const projectTitle = (id: string): string =>
    vocabulary.choice('project', id)?.title ?? 'another project'
  const order = [...vocabulary.properties.keys()]
  const given = Object.entries<unknown>({ ...builtIn, ...fields }).sort(
    ([a], [b]) => order.indexOf(a) - order.indexOf(b),
  )
  const sets = given.map(([handle, value]) => {
    if (value === null || value === '' || (Array.isArray(value) && value.length === 0))
      return `${title(handle)} is emptied`
    const values: readonly unknown[] = Array.isArray(value) ? value : [value]
    return `${title(handle)} becomes ${all(handle, values)}`
  })
  return [
    ...(change.delete ? ['They go to the bin'] : []),
    ...(change.project === undefined ? [] : [`They go to ${projectTitle(change.project)}`]),
    ...sets,
    ...Object.entries(add).map(([handle, ids]) => `${title(handle)}: ${all(handle, ids)} added`),
    ...Object.entries(remove).map(
      ([handle, ids]) => `${title(handle)}: ${all(handle, ids)} taken away`,
    ),
    ...(comment === undefined ? [] : [`“${comment}” is said with it`]),
  ]
}
