import { certain } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import type { DraftAnswer } from '@bluestem/core/definitions'
import { Op, type Sequelize, type WhereOptions } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { callOff } from '../jobs/service.ts'
import { droppedSince } from '../jobs/prune.ts'
import { forbidden, notFound } from '../problems/problem.ts'
import { audit } from '../sql/audit.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeDrafting, mayDefine } from '../workspace/rights.ts'
import { describeDraft, nameOf } from './describeDraft.ts'
import { judgeVersion } from './drafts.ts'
import { announceDraft, type Draft, draftBy, mayOpen } from './openDraft.ts'

/** Whoever proposed a draft may withdraw it and take that back; else it takes the right to what it changes. */
function judgeDropping(actor: ActorContext, draft: Draft): void {
  if (draft.proposed && draft.madeBy === actor.person.number) return
  judgeDrafting(actor)
  if (!draft.changes.every((change) => mayDefine(actor, change.path)))
    throw forbidden('This draft changes what you may not change, so you may not drop it either.')
}

/** Drops a draft; it can be taken back for 30 days. */
export async function dropDraft(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  match: string,
): Promise<void> {
  const { person, now } = actor
  await inTransaction(database, async () => {
    const draft = await draftBy(database, actor, identity, 'for update')
    judgeVersion(draft, match)
    judgeDropping(actor, draft)
    await modelsOf(database).draft.update(
      { closedAt: now, droppedBy: person.number, publishAt: null, publishBy: null },
      { where: { id: draft.id } },
    )
    await callOff(database, actor, `publish ${identity}`)
    await record(database, actor, 'dropped a draft', draft)
  })
}

const dropped = (now: Date): WhereOptions => ({
  droppedBy: { [Op.not]: null },
  closedAt: { [Op.gt]: droppedSince(now) },
})

/** The drafts that were dropped in the last 30 days, the latest first. */
export async function droppedDrafts(
  database: Sequelize,
  actor: ActorContext,
): Promise<AnswerOf<'GET /definitions/dropped-drafts'>> {
  const { world, now } = actor
  const found = await modelsOf(database).draft.findAll({
    where: { ...dropped(now), ...mayOpen(actor) },
    order: [['closedAt', 'DESC']],
  })
  return {
    drafts: found.map((draft) => ({
      id: draft.identity,
      title: draft.title,
      count: draft.changes.length,
      by: nameOf(world, draft.droppedBy),
      at: certain(draft.closedAt, 'moment at which a draft was dropped').toISOString(),
    })),
  }
}

/** Takes a dropped draft back, as it was. @throws Problem 404 for one that is gone for good */
export async function takeBackDraft(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<{ body: DraftAnswer; etag: string }> {
  return await inTransaction(database, async () => {
    const drafts = modelsOf(database).draft
    const draft = await drafts.findOne({
      where: { ...dropped(actor.now), ...mayOpen(actor), identity },
      lock: true,
    })
    if (!draft) throw notFound('draft that was dropped in the last 30 days')
    judgeDropping(actor, draft)
    await draft.update({ closedAt: null, droppedBy: null })
    await record(database, actor, 'took a dropped draft back', draft)
    return await describeDraft(database, actor, await draftBy(database, actor, identity))
  })
}

async function record(
  database: Sequelize,
  { person, now }: ActorContext,
  act: string,
  draft: Draft,
): Promise<void> {
  const { identity, title, changes } = draft
  const before = { title, changes: changes.length }
  await audit(database, person.number, act, `draft ${identity}`, { before }, now)
  await announceDraft(database, draft, now)
}
