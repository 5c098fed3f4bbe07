import { describe, expect, it } from 'vitest'
import { addMonths, dayOf, instantOf, instantText, startOfDay } from './day.ts'
import { type Period, periodAround } from './period.ts'
import cases from './vectors/days.json' with { type: 'json' }

interface Input {
  readonly fn: string
  readonly date: string
  readonly n: number | readonly number[]
  readonly zone: string
  readonly instant: string
  readonly unit: Period
  readonly today: string
  readonly k: readonly number[]
}

const computed: Readonly<Record<string, (input: Input) => unknown>> = {
  addMonths: ({ date, n }) => [n].flat().reduce((at, months) => addMonths(at, months), date),
  dayOf: ({ instant, zone }) => dayOf(instantOf(instant), zone),
  startOfDay: ({ date, zone }) => instantOf(instantText(startOfDay(date, zone))),
  span: ({ unit, today, k }) =>
    k.map((offset) => {
      const { from, to } = periodAround(unit, today, offset)
      return [from, to]
    }),
}

// Each case names its source: general date libraries, Temporal and time zones as IANA keeps them.
describe('days, months and spans, against cases computed elsewhere', () => {
  it.each(
    (cases as unknown as { name: string; input: Input; expected: unknown }[]).map(
      (entry) => [entry.name, entry] as const,
    ),
  )('%s', (_, { input, expected }) => {
    const found = computed[input.fn]!(input)
    expect(found).toEqual(input.fn === 'startOfDay' ? instantOf(expected as string) : expected)
  })
})
