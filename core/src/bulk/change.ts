import type { Facts, FactValue } from '../queries/facts.ts'
import { givenHandles } from '../work/schema.ts'
import type { ItemChange } from '../work/edit.ts'
import type { BulkChange } from './schema.ts'

const idsOf = (value: FactValue | undefined): readonly string[] =>
  Array.isArray(value) ? (value as readonly string[]) : []

/** The status an item of another type gets, where one was chosen for the status it is in. */
function mappedStatus({ set, statuses = {} }: BulkChange, item: Facts): object {
  const to = statuses[String(item['status'])]
  const changesType = set?.type !== undefined && set.type !== item['type']
  return changesType && to !== undefined && set.status === undefined ? { status: to } : {}
}

/** What a change of many items is for one of them: added and removed values become the list the item will hold. */
export function changeFor(change: BulkChange, item: Facts): ItemChange {
  const { set = {}, add = {}, remove = {} } = change
  const handles = [...new Set([...Object.keys(add), ...Object.keys(remove)])]
  const lists = handles.map((handle): [string, string[]] => {
    const kept = idsOf(item[handle]).filter((id) => !(remove[handle] ?? []).includes(id))
    return [handle, [...new Set([...kept, ...(add[handle] ?? [])])]]
  })
  const builtIn = lists.filter(([handle]) => givenHandles.has(handle))
  const custom = lists.filter(([handle]) => !givenHandles.has(handle))
  const fields = { ...set.fields, ...Object.fromEntries(custom) }
  return {
    ...set,
    ...mappedStatus(change, item),
    ...Object.fromEntries(builtIn),
    ...(Object.keys(fields).length > 0 ? { fields } : {}),
  }
}
