import { type Change, type Clash, type ClashChoices, rebase } from '@bluestem/core/definitions'
import { type InferAttributes, Op, type Sequelize, Transaction, type WhereOptions } from 'sequelize'
import type { DraftModel } from '../database/models/draft.ts'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import { announce } from '../sql/outbox.ts'
import { notFound, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { documentOf } from './editions.ts'

/** A draft as it is saved. */
export type Draft = Readonly<InferAttributes<DraftModel>>

/** The drafts that somebody may open: those that are shared, and their own. */
export const mayOpen = ({ person }: ActorContext): WhereOptions => ({
  [Op.or]: [{ shared: true }, { madeBy: person.number }],
})

/** @throws Problem 404 where no open draft has this identity, or only its maker may open it */
export async function draftBy(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  lock: 'for reading' | 'for update' = 'for reading',
): Promise<Draft> {
  const draft = await modelsOf(database).draft.findOne({
    where: { identity, closedAt: null, ...mayOpen(actor) },
    raw: true,
    ...(lock === 'for update' ? { lock: Transaction.LOCK.UPDATE } : {}),
  })
  if (!draft) throw notFound('open draft of this identity')
  return draft
}

/** Takes a draft out of those that are open, since it was published. */
export async function closeDraft(database: Sequelize, { id }: Draft, now: Date): Promise<void> {
  await modelsOf(database).draft.update({ closedAt: now }, { where: { id } })
}

/** Tells a change of a draft to whoever may open it. */
export async function announceDraft(
  database: Sequelize,
  { identity, shared, madeBy }: Pick<Draft, 'identity' | 'shared' | 'madeBy'>,
  now: Date,
): Promise<void> {
  await announce(database, 'draft', identity, shared ? {} : { person: madeBy }, now)
}

export const draftEtag = (draft: Pick<Draft, 'version'>): string => `"${draft.version}"`

/** A draft put on the current edition: its changes as they are there, or what clashes. */
export interface RebasedDraft {
  readonly changes: readonly Change[]
  readonly clashes: readonly Clash[]
}

export async function rebasedChanges(
  database: Sequelize,
  { whole: world }: World,
  draft: Pick<Draft, 'base' | 'changes'>,
  choices: ClashChoices = {},
): Promise<RebasedDraft> {
  if (draft.base === world.edition) return { changes: draft.changes, clashes: [] }
  const base = await documentOf(database, draft.base)
  const rebased = rebase(base, draft.changes, world.document, choices)
  if (rebased.ok) return { changes: rebased.changes, clashes: [] }
  // What clashes is shown as the newer edition has it until it is decided.
  const theirs = rebase(base, draft.changes, world.document, {
    ...Object.fromEntries(rebased.clashes.map((clash) => [JSON.stringify(clash.path), 'theirs'])),
    ...choices,
  })
  return { changes: theirs.ok ? theirs.changes : [], clashes: rebased.clashes }
}

export function judgeClashes({ clashes }: RebasedDraft): void {
  if (clashes.length > 0)
    throw refused(
      'An edition published since this draft was begun changed the same things otherwise; decide each of them first.',
      clashes.map((clash) => ({
        pointer: `/${clash.path.join('/')}`,
        message: 'Changed in two ways.',
      })),
      { clashes },
    )
}
