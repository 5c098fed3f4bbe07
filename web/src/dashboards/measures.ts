import type { MeasureAnswer, SavedMeasure, Widget } from '@bluestem/core/dashboards'
import { call } from '../api/http.ts'
import { dayAfter, dayIn } from '../session/zone.ts'

/** A figure in words: “sum of estimate”. */
export function figureWords(
  { kind, field, p }: SavedMeasure['content']['figure'],
  title: (handle: string) => string,
): string {
  const of = field ? ` of ${title(field).toLowerCase()}` : ''
  return kind === 'percentile'
    ? `percentile ${p ?? 50}${of}`
    : kind === 'count'
      ? 'count'
      : `${kind.replace('_', ' ')}${of}`
}

export const evaluate = async (asked: {
  measure: string
  by?: string[]
  over?: { from: string; to: string; step: 'day' | 'week' | 'month' }
}): Promise<MeasureAnswer> => await call('POST /measures/evaluate', { body: asked })

/** The figures of a widget's measure over the span it looks back on. */
export const courseOf = async (
  { by, span }: Pick<Widget, 'by' | 'span'>,
  measure: string,
  now: Date,
): Promise<MeasureAnswer> =>
  await evaluate({
    measure,
    ...(by ? { by: [by] } : {}),
    ...(span ? { over: { ...spanOf(span.days, now), step: span.step } } : {}),
  })

/** The span of so many days that ends today. */
export function spanOf(days: number, now: Date): { from: string; to: string } {
  const today = dayIn(now)
  return { from: dayAfter(today, -days), to: today }
}

/** The last day of a step, cut at today: the moment its value was told for. */
export function endOfStep(steps: readonly string[], index: number, now: Date): string {
  const next = steps[index + 1]
  const today = spanOf(0, now).to
  if (next === undefined || next > today) return today
  return dayAfter(next, -1)
}
