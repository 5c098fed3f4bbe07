import type { World } from '../workspace/world.ts'
import type { Person } from '../workspace/living.ts'
import type { QueryContext } from './statement.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { endOfDay, instantOf, isDay, isInstantText } from '@bluestem/core/calendar'
import { invalid } from '../problems/problem.ts'

/** Nothing is asked about before this: relative functions reach back a hundred years from there. */
const earliest = '1900-01-01'

/** How a person asks about a moment: the present, or as of an instant or the end of a day. */
export function queryContextOf(
  world: World,
  person: Person,
  now: Date,
  asOf?: string,
): QueryContext {
  const visible = visibleProjects(world, person)
  if (asOf === undefined || asOf === '')
    return { world, me: person.number, moment: now.getTime(), asOf: false, visible }
  if ((!isDay(asOf) && !isInstantText(asOf)) || asOf < earliest)
    throw invalid([
      {
        pointer: '/as-of',
        message: `“${asOf}” is neither a day nor a moment in UTC.`,
        expected: `2026-03-01 or 2026-03-01T08:00:00Z, from ${earliest} on`,
        found: asOf,
      },
    ])
  // Nothing is known of what is still to come: it is asked about as of now.
  const moment = Math.min(isDay(asOf) ? endOfDay(asOf, world.zone) : instantOf(asOf), now.getTime())
  return { world, me: person.number, moment, asOf: true, visible }
}
