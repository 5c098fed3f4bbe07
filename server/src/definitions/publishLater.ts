import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import { audit } from '../sql/audit.ts'
import { addJob } from '../jobs/queue.ts'
import { invalid } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeDrafting } from '../workspace/rights.ts'
import { judgeVersion } from './drafts.ts'
import { announceDraft, draftBy } from './openDraft.ts'
import { type Publishing, readyToPublish } from './publish.ts'

/** Sets a draft to be published later, as a job, once it could be published now. */
export async function publishLater(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  { note, match }: Publishing,
  at: string,
): Promise<void> {
  const { person, now } = actor
  judgeDrafting(actor)
  if (Number.isNaN(Date.parse(at)) || Date.parse(at) <= now.getTime())
    throw invalid([
      {
        pointer: '/at',
        message: 'The time lies in the past.',
        expected: 'a moment that is still to come',
        found: at,
      },
    ])
  await inTransaction(database, async () => {
    const draft = await draftBy(database, actor, identity, 'for update')
    judgeVersion(draft, match)
    await readyToPublish(database, actor, draft)
    await changeVersion(modelsOf(database).draft, identity, '*', {
      publishAt: new Date(at),
      publishBy: person.number,
      publishNote: note,
    })
    await addJob(
      database,
      { kind: 'publish', subject: identity, at: new Date(at), by: person.number },
      now,
    )
    await audit(
      database,
      person.number,
      'set a time to publish',
      `draft ${identity}`,
      { after: { at, note } },
      now,
    )
    await announceDraft(database, draft, now)
  })
}
