import {
  fold,
  newlyRefused,
  type Refused,
  replay,
  type ReplayAnswer,
} from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { askedBy, pastMoves } from '../items/pastMoves.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { draftBy, rebasedChanges } from './openDraft.ts'
import { countedProjects } from './describeDraft.ts'

/** How many refs are told of one finding: enough to open, few enough to ask for at once. */
const mostRefs = 5000

/**
 * What a draft's flows would have done to the moves really made in the last days: which they would have refused, and which items
 * would have failed a requirement.
 */
export async function replayDraft(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  days: number,
): Promise<ReplayAnswer> {
  const draft = await draftBy(database, actor, identity)
  const { changes } = await rebasedChanges(database, actor.world, draft)
  const { document: before } = actor.world.whole
  const document = fold(before, changes)
  const since = new Date(actor.now.getTime() - days * 86_400_000)
  const moves = await pastMoves(
    database,
    actor.world,
    askedBy(before, document),
    countedProjects(actor),
    since,
  )
  const [then, now] = [replay(before, moves), replay(document, moves)]
  const key = (refused: Refused): string =>
    `${refused.type}:${refused.from}:${refused.to}:${refused.why}`
  const refusedBefore = new Map(then.refused.map((refused) => [key(refused), refused.moves]))
  return {
    days,
    moves: now.moves,
    newly: newlyRefused(before, document, moves),
    refused: now.refused.map(({ refs, ...rest }) => ({
      ...rest,
      items: refs.length,
      refs: refs.slice(0, mostRefs),
      before: refusedBefore.get(key({ ...rest, refs })) ?? 0,
      words: words[rest.why],
    })),
  }
}

/** Why a move would have been refused, as people read it. */
const words: Readonly<Record<Refused['why'], string>> = {
  flow: 'the flow has no such move',
  filled: 'a field was empty',
  role: 'somebody else made it',
  been: 'it had not been where it must have been',
  belowDone: 'something below was still open',
  comment: 'nothing had been said',
  reason: 'no reason was given',
}
