import type { WorkingTime } from '../../calendar/working.ts'
import { asTextOrNull, asTexts } from '../../known/index.ts'
import { clockOf, hoursLeft } from '../../limits/clock.ts'
import type { CheckedCall } from '../tree/checked.ts'
import { Decimal } from '../values/decimal.ts'
import { type Caller, literalIn } from './entry.ts'

/** The working time by which the clocks of an item run: that of the first team that has it in its remit and a calendar, else its project's. */
function workingOf({ facts, moment: { vocabulary }, truth }: Caller): WorkingTime {
  const team = vocabulary.teams.find(
    ({ working, remit }) => working !== null && remit !== null && truth(remit) === true,
  )
  return team?.working ?? vocabulary.workingOf(String(facts['project']))
}

/** Working hours that are left of a time limit, below 0 once it is over; null where its clock does not run. */
export function limitLeft(caller: Caller, call: CheckedCall): Decimal | null {
  const { states, facts, moment } = caller
  const limit = moment.vocabulary.limits.get(literalIn(call, 0))
  if (!limit?.projects.has(String(facts['project']))) return null
  const priority = asTextOrNull(facts['priority'])
  const clock = clockOf(
    limit,
    states.map(({ from, facts: held }) => ({
      from,
      status: String(held['status']),
      onHold: held['on_hold'] === true,
    })),
    {
      priority,
      urgency: priority === null ? null : moment.vocabulary.urgencyOf(priority),
      labels: asTexts(facts['labels']),
    },
    moment.now,
    workingOf(caller),
    moment.zone,
  )
  const left = hoursLeft(clock)
  return left === null ? null : new Decimal(left)
}
