import { membersOf, type Facts } from '../queries/tree/facts.ts'
import { givenHandles } from '../work/schema.ts'
import type { ItemChange } from '../work/edit.ts'
import { flowFor } from '../work/entering.ts'
import type { WorkRules } from '../work/rules.ts'
import type { BulkChange } from './schema.ts'

/** The status an item of another type gets, where the flow of that does not have the one it is in. */
function mappedStatus(
  rules: WorkRules,
  { set, statuses = {} }: BulkChange,
  item: Facts,
): { readonly status?: string } {
  const status = String(item['status'])
  const to = statuses[status]
  const type = set?.type
  if (to === undefined || typeof type !== 'string' || set?.status !== undefined) return {}
  const { statuses: those } = flowFor(rules, { ...item, type })
  return those.includes(status) ? {} : { status: to }
}

/** What a change of many items is for one of them: added and removed values become the list the item will hold. */
export function changeFor(rules: WorkRules, change: BulkChange, item: Facts): ItemChange {
  const { set = {}, add = {}, remove = {} } = change
  const handles = [...new Set([...Object.keys(add), ...Object.keys(remove)])]
  const lists = handles.map((handle): [string, string[]] => {
    const kept = membersOf(item[handle]).filter((id) => !(remove[handle] ?? []).includes(id))
    return [handle, [...new Set([...kept, ...(add[handle] ?? [])])]]
  })
  const builtIn = lists.filter(([handle]) => givenHandles.has(handle))
  const custom = lists.filter(([handle]) => !givenHandles.has(handle))
  const fields = { ...set.fields, ...Object.fromEntries(custom) }
  const { project, types, statuses } = change
  return {
    ...set,
    ...(project === undefined ? {} : { moving: { project, types, statuses } }),
    ...mappedStatus(rules, change, item),
    ...Object.fromEntries(builtIn),
    ...(Object.keys(fields).length > 0 ? { fields } : {}),
  }
}
