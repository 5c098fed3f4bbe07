import { offeredOf } from '@bluestem/core/definitions'
import { clockOf, type ClockState } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { calendarOf } from '../definitions/calendars.ts'
import type { Acting } from './find.ts'
import type { Row } from './row.ts'

/** Where the clocks of an item's time limits stand, by the calendar its project works by. */
export async function clocksOf(database: Sequelize, { world, now }: Acting, id: number, project: string, row: Row): Promise<object[]> {
  const limits = offeredOf(world.document, world.document.projects[project]!, 'limit').flatMap((limit) => (world.document.limits[limit] && !world.document.limits[limit].retired ? [{ id: limit, ...world.document.limits[limit] }] : []))
  if (limits.length === 0) return []
  const states = (await rows<{ valid_from: Date; status_id: number; on_hold: boolean }>(database, 'SELECT valid_from, status_id, on_hold FROM item_state WHERE id = $1 ORDER BY valid_from', [id]))
    .map(({ valid_from, status_id, on_hold }): ClockState => ({ from: valid_from.getTime(), status: world.numbers.identity('status', status_id)!, onHold: on_hold }))
  const priority = row['priority_id'] === null ? null : world.numbers.identity('priority', row['priority_id'] as number)!
  const allowed = { priority, urgency: priority === null ? null : world.vocabulary.urgencyOf(priority), labels: (row['labels'] as number[]).map((number) => world.numbers.identity('label', number)!) }
  return limits.flatMap(({ id: limit, title, what, ...definition }) => {
    const clock = clockOf({ ...definition, title, what }, states, allowed, now.getTime(), calendarOf(world, project), world.zone)
    return clock ? [{ id: limit, title, what, ...clock, used: Math.round(clock.used), runsOut: clock.runsOut === null ? null : new Date(clock.runsOut).toISOString() }] : []
  })
}
