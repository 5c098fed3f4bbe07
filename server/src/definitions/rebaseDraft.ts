import type { ClashChoices, DraftAnswer } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { audit } from '../sql/audit.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeDrafting } from '../workspace/rights.ts'
import { changing } from './editDraft.ts'

/** Decides the clashes of a draft that was begun on an older edition, and puts it on the current one. */
export async function rebaseDraft(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  choices: ClashChoices,
  match: string,
): Promise<{ body: DraftAnswer; etag: string }> {
  judgeDrafting(actor)
  return await changing(
    database,
    actor,
    identity,
    match,
    async (draft) => {
      await audit(
        database,
        actor.person.number,
        'put a draft on the current edition',
        `draft ${identity}`,
        { before: draft.base, after: { edition: actor.world.edition, choices } },
        actor.now,
      )
      return draft
    },
    choices,
  )
}
