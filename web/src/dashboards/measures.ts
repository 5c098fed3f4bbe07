import type { LocationQuery, RouteLocationRaw } from 'vue-router'
import type { MeasureAnswer } from '@bluestem/core/dashboards'
import type { KeptMeasure } from '../api/types.ts'
import { post } from '../api/http.ts'

/** A figure in words: “sum of estimate”. */
export function figureWords({ kind, field, p }: KeptMeasure['content']['figure'], title: (handle: string) => string): string {
  const of = field ? ` of ${title(field).toLowerCase()}` : ''
  return kind === 'percentile' ? `percentile ${p ?? 50}${of}` : kind === 'count' ? 'count' : `${kind.replace('_', ' ')}${of}`
}

export const evaluate = async (asked: { measure: string; by?: string[]; over?: { from: string; to: string; step: 'day' | 'week' | 'month' } }): Promise<MeasureAnswer> => await post<MeasureAnswer>('/measures/evaluate', asked)

/** The span of so many days that ends today. */
export function spanOf(days: number, now: Date): { from: string; to: string } {
  const day = (date: Date): string => `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`
  return { from: day(new Date(now.getTime() - days * 86_400_000)), to: day(now) }
}

/** The last day of a step, cut at today: the moment its value was told for. */
export function endOfStep(steps: readonly string[], index: number, now: Date): string {
  const next = steps[index + 1]
  const today = spanOf(0, now).to
  if (next === undefined || next > today) return today
  return new Date(Date.parse(`${next}T00:00:00Z`) - 86_400_000).toISOString().slice(0, 10)
}

/** The address of the items behind a figure: its filter, and the day it was told for when that is past. */
export const itemsBehind = (filter: unknown, asOf?: string): string => `/queries/new?filter=${encodeURIComponent(JSON.stringify(filter))}${asOf ? `&as-of=${asOf}` : ''}`

/** The place of items that are named one by one. An address has room for some hundreds; the names of more travel beside it and stay with the tab. */
export function itemsNamed(refs: readonly string[]): RouteLocationRaw {
  const filter = { op: 'in', args: [{ property: 'ref' }, refs] }
  return refs.length > 300 ? { path: '/queries/new', state: { filter: JSON.stringify(filter) } } : itemsBehind(filter)
}

/** The filter of the items one came for: in the address, or beside it. */
export function filterCameFor(query: LocationQuery): string | undefined {
  const beside: unknown = (window.history.state as { filter?: unknown } | null)?.filter
  return [query['filter'], beside].find((one) => typeof one === 'string')
}
