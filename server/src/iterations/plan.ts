import { dayOf } from '@bluestem/core/calendar'
import { unitOf } from '@bluestem/core/definitions'
import {
  capacityOf,
  type FinishIteration,
  type IterationAnswer,
  outcomeOf,
  type PlanAnswer,
  type PlannedItem,
} from '@bluestem/core/iterations'
import { listed } from '@bluestem/core/work'
import { Op, type Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { IterationModel } from '../database/models/iteration.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion, etagOfVersion } from '../database/versioned.ts'
import { plannedRows, type PlannedRow } from '../items/iteration.ts'
import { refOf } from '../items/row.ts'
import { invalid, refused } from '../problems/problem.ts'
import { editMany } from '../work/editItem.ts'
import { problemOf } from '../work/refusal.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'
import { iterationBy, judgePlanner, readIteration, recorded, shown } from './service.ts'

/** The phases by the numbers that items keep. */
const [doneNumber, droppedNumber] = [2, 3]

function plannedItem(world: World, row: PlannedRow): PlannedItem {
  const project = world.projects.find(({ number }) => number === row.project_id)!
  const rulebook = world.document.projects[project.id]
  return {
    ref: refOf(world, row),
    isDone: row.phase === doneNumber,
    isOpen: row.phase < droppedNumber && row.phase !== doneNumber,
    isInside: row.inside,
    isCommitted: row.committed,
    unit: rulebook === undefined ? 'hours' : unitOf(world.document, rulebook),
    estimate: row.estimate,
  }
}

/** The items of an iteration as they stand, or stood just before it was finished. */
async function plannedItems(
  database: Sequelize,
  { world, person, now }: ActorContext,
  { id, startedAt, finishedAt }: IterationModel,
): Promise<PlannedItem[]> {
  // A state that begins at this very moment is there already.
  const until = finishedAt ?? new Date(now.getTime() + 1)
  const rows = await plannedRows(
    database,
    id,
    visibleProjects(world, person),
    startedAt ?? null,
    until,
  )
  return rows.map((row) => plannedItem(world, row))
}

/** How much its team can work in an iteration; null where it has no team or no days. */
async function capacityIn(
  database: Sequelize,
  { world }: ActorContext,
  { team: owner, startDate: start, endDate: end }: IterationModel,
): Promise<PlanAnswer['capacity']> {
  const team = world.teams.find(({ id }) => id === owner?.identity)
  if (!team || !start || !end) return null
  const calendar =
    world.calendars.find(({ id }) => id === team.calendar) ??
    world.calendars.find(({ standard }) => standard)!
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
    people: capacity.people.map(({ person, ...one }) => ({
      id: person,
      title: nameOf.get(person)!,
      ...one,
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
  const outcome = outcomeOf(await plannedItems(database, actor, iteration))
  const { inside, done } = outcome
  return {
    iteration: shown(iteration, { items: inside.refs.length, done: done.refs.length }),
    capacity: await capacityIn(database, actor, iteration),
    outcome,
    next: await laterOnes(database, iteration),
  }
}

/** Where each open item goes; those that stay where they are are left out. @throws Problem where a place or an item is none */
function movesOf(
  { world }: ActorContext,
  identity: string,
  open: readonly string[],
  { to, others = [] }: FinishIteration,
): { readonly ref: string; readonly to: string | null }[] {
  const known = new Set(world.source.iterations.map(({ id }) => id))
  const isWrong = (place: string | null): boolean => place !== null && !known.has(place)
  const wrong = [
    ...(isWrong(to) ? [{ pointer: '/to', message: 'There is no such iteration.' }] : []),
    ...others.flatMap((one, index) => [
      ...(isWrong(one.to)
        ? [{ pointer: `/others/${index}/to`, message: 'There is no such iteration.' }]
        : []),
      ...(open.includes(one.ref)
        ? []
        : [
            {
              pointer: `/others/${index}/ref`,
              message: `${one.ref} is not open in this iteration.`,
            },
          ]),
    ]),
  ]
  if (wrong.length > 0) throw invalid(wrong)
  const placeOf = new Map(others.map((one) => [one.ref, one.to]))
  return open
    .map((ref) => ({ ref, to: placeOf.has(ref) ? placeOf.get(ref)! : to }))
    .filter((move) => move.to !== identity)
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
    if (!iteration.startedAt) throw refused(`“${iteration.title}” was not started yet.`)
    if (iteration.finishedAt) throw refused(`“${iteration.title}” was finished before.`)
    const { open } = outcomeOf(await plannedItems(database, actor, iteration))
    const moves = movesOf(actor, identity, open.refs, given)
    // Of two who finish it at the same moment one wins.
    await changeVersion(modelsOf(database).iteration, identity, etagOfVersion(iteration), {
      finishedAt: actor.now,
    })
    const { judged } = await editMany(
      database,
      actor,
      moves.map(({ ref, to }) => ({ ref, change: { iteration: to } })),
    )
    const kept = judged.findIndex(({ ok }) => !ok)
    const refusal = judged[kept]
    if (refusal && !refusal.ok) {
      const { message } = problemOf(refusal.refusal)
      throw refused(`${moves[kept]!.ref} cannot go elsewhere: ${message}`)
    }
    await recorded(database, actor, 'finished an iteration', identity, {
      after: {
        title: iteration.title,
        day: dayOf(actor.now.getTime(), actor.world.zone),
        moved: listed(moves.map(({ ref }) => ref)),
      },
    })
  })
  return await readIteration(database, actor, identity)
}
