import { offeredOf } from '@bluestem/core/definitions'
import { clockOf, type ClockState } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { calendarOfItem } from '../teams/service.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Row } from './row.ts'

/** Where the clocks of an item's time limits stand, and the calendar they run by. */
export async function clocksOf(
  database: Sequelize,
  acting: ActorContext,
  id: number,
  project: string,
  row: Row,
): Promise<object[]> {
  const { world, now } = acting
  const limits = offeredOf(world.document, world.document.projects[project]!, 'limit').flatMap(
    (limit) =>
      world.document.limits[limit] && !world.document.limits[limit].retired
        ? [{ id: limit, ...world.document.limits[limit] }]
        : [],
  )
  if (limits.length === 0) return []
  const states = (
    await rows<{ valid_from: Date; status_id: number; on_hold: boolean }>(
      database,
      'SELECT valid_from, status_id, on_hold FROM item_state WHERE id = $1 ORDER BY valid_from',
      [id],
    )
  ).map(({ valid_from, status_id, on_hold }): ClockState => ({
    from: valid_from.getTime(),
    status: world.numbers.identity('status', status_id)!,
    onHold: on_hold,
  }))
  const priority =
    row['priority_id'] === null
      ? null
      : world.numbers.identity('priority', row['priority_id'] as number)!
  const allowed = {
    priority,
    urgency: priority === null ? null : world.vocabulary.urgencyOf(priority),
    labels: (row['labels'] as number[]).map((number) => world.numbers.identity('label', number)!),
  }
  const { calendar, team } = await calendarOfItem(database, acting, id, project)
  return limits.flatMap(({ id: limit, title, what, ...definition }) => {
    const clock = clockOf(
      { ...definition, title, what },
      states,
      allowed,
      now.getTime(),
      calendar,
      world.zone,
    )
    return clock
      ? [
          {
            id: limit,
            title,
            what,
            ...clock,
            calendar: calendar.title,
            team,
            used: Math.round(clock.used),
            runsOut: clock.runsOut === null ? null : new Date(clock.runsOut).toISOString(),
          },
        ]
      : []
  })
}
