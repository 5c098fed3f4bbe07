import { elementAt } from '@bluestem/core/known'
import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import {
  type Evaluate,
  fieldFigures,
  type Figure,
  type MeasureContent,
} from '@bluestem/core/dashboards'
import {
  type Condition,
  keptFilter,
  type Property,
  type QueryContent,
} from '@bluestem/core/queries'
import { read } from '../saved/service.ts'
import { readFilter, readSavedFilter } from '../queries/filter.ts'
import { invalid } from '../problems/problem.ts'
import { propertyOf } from '../queries/properties.ts'
import type { QueryContext } from '../sql/statement.ts'
import {
  addDays,
  countSteps,
  dayOf,
  type Instant,
  isDay,
  periodAround,
  startOfDay,
  stepsOf,
} from '@bluestem/core/calendar'

export async function source(
  database: Sequelize,
  ask: ActorContext,
  given: Evaluate,
): Promise<{ figure: Figure; unit: string; condition: Condition; kept: unknown }> {
  if (given.measure !== undefined) {
    const measure = await read<MeasureContent>(database, ask, 'measure', given.measure)
    const query = await read<QueryContent>(database, ask, 'query', measure.content.query)
    const condition = readSavedFilter(ask.world, query.content.filter)
    const kept = keptFilter(condition, ask.world.vocabulary)
    return { figure: measure.content.figure, unit: measure.content.unit, condition, kept }
  }
  if (!given.figure)
    throw invalid([
      {
        pointer: '/figure',
        message: 'Say which measure, or give a figure and a filter.',
        expected: 'measure, or figure and filter',
      },
    ])
  const condition = given.kept
    ? readSavedFilter(ask.world, given.filter ?? true)
    : readFilter(ask.world, given.filter, given['filter-lang'])
  return {
    figure: given.figure,
    unit: given.figure.kind === 'count' || given.figure.kind === 'throughput' ? 'items' : '',
    condition,
    kept: keptFilter(condition, ask.world.vocabulary),
  }
}

export function fieldOf(ask: ActorContext, figure: Figure): Property | undefined {
  if (!fieldFigures.includes(figure.kind)) return undefined
  const property = propertyOf(ask.world, figure.field ?? '', '/figure/field')
  if (property.type.kind !== 'number' || property.leftOf !== undefined)
    throw invalid([
      {
        pointer: '/figure/field',
        message: `${property.title} is no number that items hold, so it has no ${figure.kind}.`,
        expected: 'a number field',
        found: property.handle,
      },
    ])
  return property
}

export function groupProperty(ask: ActorContext, handle: string): Property {
  const property = propertyOf(ask.world, handle, '/by')
  if (
    property.orderOnly ||
    property.leftOf !== undefined ||
    property.handle === 'title' ||
    property.handle === 'description' ||
    property.handle === 'ref'
  )
    throw invalid([
      {
        pointer: '/by',
        message: `Figures are not told by ${property.title}.`,
        expected: 'a field with values that repeat',
      },
    ])
  return property
}

/** Three years of days. */
const mostSteps = 1100

/** The steps of the span and the instant at which each ends; the running step ends now, later ones have not come yet. */
export function stepsIn(
  ask: ActorContext,
  queryContext: QueryContext,
  given: Evaluate,
): { steps: string[]; ends: (Instant | null)[] } {
  const { zone } = ask.world
  if (!given.over) return { steps: [dayOf(queryContext.moment, zone)], ends: [queryContext.moment] }
  const { from, to, step } = given.over
  for (const [name, day] of Object.entries({ from, to }))
    if (!isDay(day))
      throw invalid([
        {
          pointer: `/over/${name}`,
          message: `“${day}” is no day of the calendar.`,
          expected: '2026-03-01',
          found: day,
        },
      ])
  if (to < from)
    throw invalid([
      {
        pointer: '/over/to',
        message: 'The span ends before it begins.',
        expected: `a day from ${from} on`,
        found: to,
      },
    ])
  const count = countSteps(step, { from, to })
  if (count > mostSteps)
    throw invalid([
      {
        pointer: '/over',
        message: `This span has ${count} steps; at most ${mostSteps} are computed.`,
        expected: 'a shorter span or a coarser step',
        found: `${count} steps`,
      },
    ])
  const steps = stepsOf(step, { from, to })
  const after = (index: number): string =>
    steps[index + 1] ?? addDays(periodAround(step, elementAt(steps, index)).to, 1)
  // States are asked about just before their end; a state that began at this very millisecond counts.
  const present = queryContext.moment + 1
  const ends = steps.map((first, index) =>
    startOfDay(first, zone) > queryContext.moment
      ? null
      : Math.min(startOfDay(after(index), zone), present),
  )
  return { steps, ends }
}
