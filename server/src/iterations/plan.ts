import { standardCalendar } from '../calendars/service.ts'
import { valueFor } from '@bluestem/core/known'
import { dayOf } from '@bluestem/core/calendar'
import {
  capacityOf,
  type FinishIteration,
  type IterationAnswer,
  type PlanAnswer,
} from '@bluestem/core/iterations'
import { listed } from '@bluestem/core/work'
import { Op, type Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { IterationModel } from '../database/models/iteration.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion, etagOfVersion } from '../database/versioned.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeFinish, moveOpen, outcomeIn } from './planned.ts'
import { iterationBy, judgePlanner, readIteration, recorded, shown } from './service.ts'

/** How much its team can work in an iteration; null where it has no team or no days. */
async function capacityIn(
  database: Sequelize,
  { world }: ActorContext,
  { team: owner, startDate: start, endDate: end }: IterationModel,
): Promise<PlanAnswer['capacity']> {
  const team = world.teams.find(({ id }) => id === owner?.identity)
  if (!team || !start || !end) return null
  const calendar = world.calendars.find(({ id }) => id === team.calendar) ?? standardCalendar(world)
  const people = world.people.filter(({ number, active }) => active && team.people.has(number))
  const away = await modelsOf(database).absence.findAll({
    where: {
      personId: people.map(({ number }) => number),
      startDate: { [Op.lte]: end },
      endDate: { [Op.gte]: start },
    },
  })
  const capacity = capacityOf(
    { start, end },
    people.map(({ id, number }) => ({
      person: id,
      absences: away
        .filter(({ personId }) => personId === number)
        .map(({ startDate, endDate }) => ({ start: startDate, end: endDate })),
    })),
    calendar,
  )
  const nameOf = new Map(people.map(({ id, name }) => [id, name]))
  return {
    ...capacity,
    people: capacity.people.map(({ person, ...rest }) => ({
      id: person,
      title: valueFor(nameOf, person),
      ...rest,
    })),
  }
}

/** Iterations of the same owner that are not finished and end later: where what is open can go. */
async function laterOnes(
  database: Sequelize,
  { id, teamId = null, endDate }: IterationModel,
): Promise<PlanAnswer['next']> {
  const found = await modelsOf(database).iteration.findAll({
    where: {
      teamId,
      id: { [Op.ne]: id },
      finishedAt: null,
      ...(endDate ? { endDate: { [Op.gt]: endDate } } : {}),
    },
    order: ['startDate', 'id'],
    limit: 12,
  })
  return found.map(({ identity, title }) => ({ id: identity, title }))
}

/** How an iteration stands: what it has, what was meant, what can be worked. */
export async function readPlan(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<PlanAnswer> {
  const iteration = await iterationBy(database, identity)
  const outcome = await outcomeIn(database, actor, 'iteration', iteration)
  const { inside, done } = outcome
  return {
    iteration: shown(iteration, { items: inside.refs.length, done: done.refs.length }),
    capacity: await capacityIn(database, actor, iteration),
    outcome,
    next: await laterOnes(database, iteration),
  }
}

/** Finishes an iteration: what is open goes where it is said, all or nothing. */
export async function finishIteration(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  given: FinishIteration,
): Promise<IterationAnswer> {
  await inTransaction(database, async () => {
    const iteration = await iterationBy(database, identity)
    judgePlanner(actor, iteration.team?.identity ?? null)
    judgeFinish(iteration)
    // Of two who finish it at the same moment one wins.
    await changeVersion(modelsOf(database).iteration, identity, etagOfVersion(iteration), {
      finishedAt: actor.now,
    })
    const moved = await moveOpen(database, actor, 'iteration', iteration, given)
    await recorded(database, actor, 'finished an iteration', identity, {
      after: {
        title: iteration.title,
        day: dayOf(actor.now.getTime(), actor.world.zone),
        moved: listed(moved),
      },
    })
  })
  return await readIteration(database, actor, identity)
}
