import { callOff } from '../jobs/service.ts'
import {
  type Change,
  type ClashChoices,
  type Edit,
  fold,
  inWords,
  type MappingChoices,
  restingOn,
  type DraftAnswer,
} from '@bluestem/core/definitions'
import type { Placing } from '../database/models/draft.ts'
import type { Sequelize } from 'sequelize'
import { audit } from '../sql/audit.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeDrafting, judgeRight } from '../workspace/rights.ts'
import { added, judgeVersion } from './drafts.ts'
import { announceDraft, type Draft, draftBy, rebasedChanges, judgeClashes } from './openDraft.ts'
import { projectTitles } from './editions.ts'
import { notFound, refused } from '../problems/problem.ts'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import { describeDraft } from './describeDraft.ts'

export interface DraftEditing {
  readonly title?: string
  readonly edits?: readonly Edit[]
  readonly choices?: MappingChoices
  readonly boards?: readonly Placing[]
  readonly publishAt?: null
  readonly shared?: boolean
}

/** Adds edits, answers and placings to a draft, and calls off a publishing that was set for later. */
export async function editDraft(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  { edits = [], ...given }: DraftEditing,
  match: string,
): Promise<{ body: DraftAnswer; etag: string }> {
  judgeDrafting(actor)
  judgeRight(
    actor,
    edits.map((edit) => edit.path),
  )
  return await changing(database, actor, identity, match, async (draft, changes) => {
    if (given.publishAt === null) await callOff(database, actor, `publish ${identity}`)
    const after = added(actor, changes, edits)
    const document = fold(actor.world.whole.document, after)
    const said = [
      ...edits.map((edit) =>
        inWords(
          actor.world.whole.document,
          document,
          { path: edit.path, after: edit.after, before: undefined },
          projectTitles(actor.world),
        ),
      ),
      ...Object.keys(given),
    ]
    await audit(
      database,
      actor.person.number,
      'changed a draft',
      `draft ${identity}`,
      { after: said.slice(0, 50) },
      actor.now,
    )
    return {
      ...draft,
      ...(given.title === undefined ? {} : { title: given.title }),
      shared: sharedAfter(actor, draft, given.shared),
      choices: { ...draft.choices, ...given.choices },
      boards: given.boards ?? draft.boards,
      changes: after,
      ...(given.publishAt === null ? { publishAt: null, publishBy: null } : {}),
    }
  })
}

/** @throws Problem 409 where somebody other than its maker would keep a draft to its maker, or it waits to be published by another */
function sharedAfter(
  { person }: ActorContext,
  draft: Draft,
  wanted: boolean = draft.shared,
): boolean {
  if (wanted === draft.shared) return wanted
  if (draft.madeBy !== person.number)
    throw refused('Only whoever began a draft says who may open it.')
  if (!wanted && draft.proposed)
    throw refused('A proposal is there for those who may publish it; withdraw it instead.')
  if (!wanted && draft.publishBy !== null && draft.publishBy !== person.number)
    throw refused('Somebody set a time to publish this draft; call that off first.')
  return wanted
}

/** Takes one change of a draft back, unless later changes rest on it. */
export async function undoChange(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  change: string,
  match: string,
): Promise<{ body: DraftAnswer; etag: string }> {
  const { world } = actor
  const before = world.whole.document
  judgeDrafting(actor)
  return await changing(database, actor, identity, match, async (draft, changes) => {
    const found = changes.find((entry) => entry.id === change)
    if (!found) throw notFound('change of this draft')
    judgeRight(actor, [found.path])
    const resting = restingOn(changes, change)
    const document = fold(before, changes)
    if (resting.length > 0)
      throw refused(
        `Later changes rest on this one; undo them first: ${resting.map((change) => inWords(before, document, change, projectTitles(world))).join('; ')}.`,
      )
    await audit(
      database,
      actor.person.number,
      'undid a change of a draft',
      `draft ${identity}`,
      { before: inWords(before, document, found, projectTitles(world)) },
      actor.now,
    )
    return { ...draft, changes: changes.filter((entry) => entry.id !== change) }
  })
}

/** Changes a draft in one transaction, first put on the current edition. @throws Problem 409 with the clashes where that takes a decision */
export async function changing(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  match: string,
  change: (draft: Draft, changes: readonly Change[]) => Promise<Draft>,
  choices: ClashChoices = {},
): Promise<{ body: DraftAnswer; etag: string }> {
  return await inTransaction(database, async () => {
    const draft = await draftBy(database, actor, identity, 'for update')
    judgeVersion(draft, match)
    const based = await rebasedChanges(database, actor.world, draft, choices)
    judgeClashes(based)
    const next = await change({ ...draft, changes: based.changes }, based.changes)
    const { title, shared, choices: mappings, boards, publishAt, publishBy } = next
    const values = {
      title,
      shared,
      boards,
      publishAt,
      publishBy,
      changes: next.changes,
      choices: mappings,
    }
    await changeVersion(modelsOf(database).draft, identity, '*', {
      ...values,
      base: actor.world.edition,
    })
    // Who may open it no more is told as well, so that it goes from their screen.
    await announceDraft(database, { ...draft, shared: draft.shared || shared }, actor.now)
    return await describeDraft(database, actor, await draftBy(database, actor, identity))
  })
}
