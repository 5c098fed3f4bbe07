import { asNumber, asTexts, certain } from '@bluestem/core/known'
import type { Facts, FactValue, Property } from '@bluestem/core/queries'
import { columnOf, phaseNumber } from '../sql/property.ts'
import type { World } from '../workspace/world.ts'

/** A value as its column keeps it: choices by number, several in ascending order, a parent by its row. */
function storedValue(
  { numbers }: World,
  { handle, type }: Property,
  value: FactValue,
  idOf: (ref: string) => number | undefined,
): unknown {
  if (type.kind === 'array')
    return asTexts(value)
      .map((id) => numbers.numberOf(type.domain, id))
      .sort((a, b) => a - b)
  if (value === null) return null
  if (handle === 'phase') return phaseNumber(String(value))
  if (handle === 'parent') return certain(idOf(String(value)), `item ${String(value)}`)
  if (type.kind === 'timestamp') return new Date(asNumber(value))
  return type.kind === 'choice' ? numbers.numberOf(type.domain, String(value)) : value
}

/** Values of an item by column; what has no column, such as its description, is left out. */
export function columnValues(
  world: World,
  facts: Facts,
  handles: readonly string[],
  idOf: (ref: string) => number | undefined,
): Record<string, unknown> {
  const values: Record<string, unknown> = {}
  for (const handle of handles) {
    const property = world.vocabulary.properties.get(handle)
    const column = property && columnOf({ world }, property)
    if (property && column)
      values[column] = storedValue(world, property, facts[handle] ?? null, idOf)
  }
  return values
}
