import { asRecord } from '@bluestem/core/known'
import type { LocationQuery, RouteLocationRaw } from 'vue-router'

/** The address of the items behind a figure: its filter, and the day it was told for when that is past. */
export const itemsBehind = (filter: unknown, asOf?: string): string =>
  `/queries/new?filter=${encodeURIComponent(JSON.stringify(filter))}${asOf ? `&as-of=${asOf}` : ''}`

/** The place of items that are named one by one. An address has room for some hundreds; the names of more travel beside it and stay with the tab. */
export function itemsNamed(refs: readonly string[]): RouteLocationRaw {
  const filter = { op: 'in', args: [{ property: 'ref' }, refs] }
  return refs.length > 300
    ? { path: '/queries/new', state: { filter: JSON.stringify(filter) } }
    : itemsBehind(filter)
}

/** The filter of the items one came for: in the address, or beside it. */
export function filterCameFor(query: LocationQuery): string | undefined {
  const beside = asRecord(window.history.state)['filter']
  return [query['filter'], beside].find((entry) => typeof entry === 'string')
}
