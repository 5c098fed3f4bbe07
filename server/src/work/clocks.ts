import { entryOf } from '@bluestem/core/known'
import type { WholeItemAnswer } from '@bluestem/core/work'
import type { World } from '../workspace/world.ts'
import { type DefinitionsDocument, offeredOf } from '@bluestem/core/definitions'
import { type Allowed, clockOf, type ClockState } from '@bluestem/core/limits'
import type { Sequelize } from 'sequelize'
import { type ClockRow, clockRows } from '../items/read.ts'
import { calendarOfItem } from '../teams/service.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { ItemRow } from '../items/row.ts'

type Limit = DefinitionsDocument['limits'][string] & { readonly id: string }

/** The time limits that a project's rulebook offers. */
function limitsOf(document: DefinitionsDocument, project: string): Limit[] {
  const offered = offeredOf(document, entryOf(document.projects, project), 'limit')
  return offered.flatMap((id) => {
    const limit = document.limits[id]
    return limit && !limit.retired ? [{ id, ...limit }] : []
  })
}

export const clockStateOf = (
  { numbers }: World,
  { valid_from: from, status_id: status, on_hold: onHold }: ClockRow,
): ClockState => ({ from: from.getTime(), status: numbers.identityOf('status', status), onHold })

/** Every state of an item, as a clock counts it. */
async function statesOf(database: Sequelize, world: World, id: number): Promise<ClockState[]> {
  const states = await clockRows(database, [id])
  return states.map((state) => clockStateOf(world, state))
}

/** What an item's allowance under a limit depends on; urgencies are those of the document at hand. */
export function allowedOf(
  { numbers }: World,
  { priorities }: DefinitionsDocument,
  priorityId: number | null,
  labels: readonly number[],
): Allowed {
  const priority = priorityId === null ? null : numbers.identityOf('priority', priorityId)
  return {
    priority,
    urgency: priorities[priority ?? '']?.urgency ?? null,
    labels: labels.map((number) => numbers.identityOf('label', number)),
  }
}

/** Where the clocks of an item's time limits stand, and the calendar they run by. */
export async function clocksOf(
  database: Sequelize,
  actor: ActorContext,
  id: number,
  project: string,
  row: ItemRow,
): Promise<WholeItemAnswer['limits']> {
  const { world, now } = actor
  const limits = limitsOf(world.document, project)
  if (limits.length === 0) return []
  const states = await statesOf(database, world, id)
  const allowed = allowedOf(world, world.document, row.priority_id, row.labels)
  const { calendar, team } = await calendarOfItem(database, actor, id, project)
  return limits.flatMap((limit) => {
    const clock = clockOf(limit, states, allowed, now.getTime(), calendar, world.zone)
    if (!clock) return []
    const runsOut = clock.runsOut === null ? null : new Date(clock.runsOut).toISOString()
    const { id: limitId, title, what } = limit
    const used = Math.round(clock.used)
    return [{ id: limitId, title, what, ...clock, calendar: calendar.title, team, used, runsOut }]
  })
}
