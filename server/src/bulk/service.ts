import { firstIn } from '@bluestem/core/known'
import { type BulkAnswer, bulkInWords, mostNamed, type NewBulk } from '@bluestem/core/bulk'
import { Op, type Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { BulkChangeModel } from '../database/models/bulkChange.ts'
import { modelsOf } from '../database/models/models.ts'
import {
  addBulkItems,
  addChangedItems,
  bulkRefusals,
  countOutcomes,
  outcomes,
} from '../items/bulk.ts'
import { addJob } from '../jobs/queue.ts'
import { jobsSince } from '../jobs/prune.ts'
import { notFound, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { idsOf } from './items.ts'

/** how many changes are listed */
const mostListed = 50

/** The change of that identity which somebody made; administrators find everybody's. @throws Problem 404 */
async function bulkBy(
  database: Sequelize,
  { person }: ActorContext,
  identity: string,
): Promise<BulkChangeModel> {
  const mine = person.role === 'administrator' ? {} : { byId: person.number }
  const bulk = await modelsOf(database).bulkChange.findOne({ where: { identity, ...mine } })
  if (!bulk) throw notFound('change of many items of this identity')
  return bulk
}

/**
 * Begins a change of many items, which a job carries out.
 *
 * @throws Problem 409 where other items answer by now than were looked at
 */
export async function beginBulk(
  database: Sequelize,
  actor: ActorContext,
  { items, change, total }: NewBulk,
): Promise<BulkAnswer> {
  return await inTransaction(database, async () => {
    const ids = await idsOf(database, actor, items)
    if (ids.length !== total)
      throw refused(
        `These are ${ids.length} items by now, not ${total}; look at what would change again.`,
        [],
        { total: ids.length },
      )
    const bulk = await queueBulk(database, actor, { change }, ids.length)
    await addBulkItems(database, bulk.id, ids)
    return await answerFor(database, actor, bulk)
  })
}

async function queueBulk(
  database: Sequelize,
  { person, now }: ActorContext,
  values: Pick<BulkChangeModel, 'change'> & { readonly undoes?: number },
  total: number,
): Promise<BulkChangeModel> {
  const identity = newIdentity('bu')
  const made = { ...values, identity, byId: person.number, at: now }
  const bulk = await modelsOf(database).bulkChange.create(made)
  await addJob(
    database,
    { kind: 'bulk', subject: identity, at: now, by: person.number, total },
    now,
  )
  return bulk
}

/** The changes of many that somebody made in the last 30 days, the latest first. */
export async function listBulk(
  database: Sequelize,
  actor: ActorContext,
): Promise<{ bulk: BulkAnswer[] }> {
  const found = await modelsOf(database).bulkChange.findAll({
    where: { byId: actor.person.number, at: { [Op.gt]: jobsSince(actor.now) } },
    order: [['id', 'DESC']],
    limit: mostListed,
  })
  return { bulk: await answersFor(database, actor, found) }
}

export async function readBulk(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<BulkAnswer> {
  return await answerFor(database, actor, await bulkBy(database, actor, identity))
}

/** Cancels a change that is at work: what it changed already is taken back, as long as nobody changed the same since. */
export async function cancelBulk(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<BulkAnswer> {
  const bulk = await bulkBy(database, actor, identity)
  const [cancelled] = await modelsOf(database).bulkChange.update(
    { cancelledAt: actor.now },
    { where: { id: bulk.id, finishedAt: null, undoes: null } },
  )
  if (cancelled === 0)
    throw refused(
      bulk.finishedAt === null
        ? 'This takes another change back and goes to its end.'
        : 'This is done; it can be undone instead.',
    )
  return await readBulk(database, actor, identity)
}

/** Takes back what a change of many changed, as a change of its own. @throws Problem 409 where that was done, or nothing is to be taken back */
export async function undoBulk(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<BulkAnswer> {
  return await inTransaction(database, async () => {
    const bulk = await bulkBy(database, actor, identity)
    const answer = await answerFor(database, actor, bulk)
    if (!answer.undoable)
      throw refused('There is nothing to undo: it is at work, changed nothing, or was undone.')
    const undoing = await queueBulk(
      database,
      actor,
      { change: bulk.change, undoes: bulk.id },
      answer.changed,
    )
    await addChangedItems(database, undoing.id, bulk.id)
    return await answerFor(database, actor, undoing)
  })
}

const answerFor = async (
  database: Sequelize,
  actor: ActorContext,
  bulk: BulkChangeModel,
): Promise<BulkAnswer> => firstIn(await answersFor(database, actor, [bulk]))

function stateOf({ finishedAt, cancelledAt }: BulkChangeModel, done: number): BulkAnswer['state'] {
  if (finishedAt !== null) return cancelledAt === null ? 'done' : 'cancelled'
  if (cancelledAt !== null) return 'taking back'
  return done > 0 ? 'at work' : 'waiting'
}

async function answersFor(
  database: Sequelize,
  actor: ActorContext,
  bulks: readonly BulkChangeModel[],
): Promise<BulkAnswer[]> {
  const { world, person } = actor
  const ids = bulks.map(({ id }) => id)
  const { bulkChange } = modelsOf(database)
  const counted = await countOutcomes(database, ids)
  const refusals = await bulkRefusals(database, ids, visibleProjects(world, person), mostNamed)
  const undoing = await bulkChange.findAll({ where: { undoes: ids } })
  const undone = new Set(undoing.map((bulkChange) => bulkChange.undoes))
  const sources = await bulkChange.findAll({
    where: { id: bulks.flatMap(({ undoes }) => undoes ?? []) },
  })
  return bulks.map((bulk) => {
    const of = (outcome: number): number =>
      counted.find(
        (outcomeCount) => outcomeCount.bulk === bulk.id && outcomeCount.outcome === outcome,
      )?.count ?? 0
    const total = counted
      .filter((outcomeCount) => outcomeCount.bulk === bulk.id)
      .reduce((sum, outcomeCount) => sum + outcomeCount.count, 0)
    const changed = of(outcomes.changed)
    const isOver = bulk.finishedAt !== null && bulk.cancelledAt === null
    return {
      id: bulk.identity,
      words: bulkInWords(bulk.change, world.vocabulary, world.zone),
      by: world.people.find(({ number }) => number === bulk.byId)?.name ?? '',
      at: bulk.at.toISOString(),
      state: stateOf(bulk, total - of(outcomes.waiting)),
      undoes: sources.find(({ id }) => id === bulk.undoes)?.identity ?? null,
      undoable: isOver && bulk.undoes === null && changed > 0 && !undone.has(bulk.id),
      total,
      done: total - of(outcomes.waiting),
      changed,
      same: of(outcomes.same),
      takenBack: of(outcomes.takenBack),
      refused: refusals
        .filter((refusal) => refusal.bulk === bulk.id)
        .map(({ message, count, refs }) => ({ message, count, refs })),
    }
  })
}
