import type { AnswerOf } from '@bluestem/core/contract'
import {
  addEdits,
  type Change,
  DefinitionsDocument,
  diff,
  type Edit,
  fold,
  impact,
  judgeSuccession,
  overtaken,
  type DraftAnswer,
  type ImpactAnswer,
} from '@bluestem/core/definitions'
import { type Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { audit } from '../sql/audit.ts'
import { judge } from '../http/judge.ts'
import { invalid, judgeMatch, refused, stale } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { judgeDrafting, judgeRight } from '../workspace/rights.ts'
import { countChanges, countTogether } from './touched.ts'
import { usageOf } from './usage.ts'
import {
  announceDraft,
  type Draft,
  draftBy,
  draftEtag,
  mayOpen,
  rebasedChanges,
} from './openDraft.ts'
import { countedProjects, describeDraft, fieldsWithOptions, nameOf } from './describeDraft.ts'

/** The open drafts, each by what it is: what is in one, and what it touches, is told when it is read. */
export async function drafts(
  database: Sequelize,
  actor: ActorContext,
): Promise<AnswerOf<'GET /definitions/drafts'>> {
  const { world, person } = actor
  const open = await modelsOf(database).draft.findAll({
    where: { closedAt: null, ...mayOpen(actor) },
    order: ['id'],
  })
  return {
    drafts: open.map((draft) => ({
      id: draft.identity,
      title: draft.title,
      base: draft.base,
      etag: draftEtag(draft),
      proposed: draft.proposed,
      shared: draft.shared,
      mine: draft.madeBy === person.number,
      by: nameOf(world, draft.madeBy),
      at: draft.madeAt.toISOString(),
      count: draft.changes.length,
    })),
  }
}

export async function readDraft(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<{ body: DraftAnswer; etag: string }> {
  return await describeDraft(database, actor, await draftBy(database, actor, identity))
}

interface BegunDraft {
  readonly title: string
  readonly edits?: readonly Edit[]
  readonly shared?: boolean
}

/** Opens a draft. */
export async function makeDraft(
  database: Sequelize,
  actor: ActorContext,
  { title, edits = [], shared = true }: BegunDraft,
): Promise<{ body: DraftAnswer; etag: string }> {
  judgeDrafting(actor)
  judgeRight(
    actor,
    edits.map((edit) => edit.path),
  )
  return await begin(database, actor, title, edits, { proposed: false, shared })
}

/** What a member proposes: a draft that waits for those who may publish it. */
export async function propose(
  database: Sequelize,
  actor: ActorContext,
  title: string,
  edits: readonly Edit[],
): Promise<{ body: DraftAnswer; etag: string }> {
  const waiting = await modelsOf(database).draft.count({
    where: { closedAt: null, proposed: true, madeBy: actor.person.number },
  })
  if (waiting >= 20)
    throw refused('Twenty proposals of yours are waiting already; withdraw one of them first.')
  return await begin(database, actor, title, edits, { proposed: true, shared: true })
}

async function begin(
  database: Sequelize,
  actor: ActorContext,
  title: string,
  edits: readonly Edit[],
  { proposed, shared }: Pick<Draft, 'proposed' | 'shared'>,
): Promise<{ body: DraftAnswer; etag: string }> {
  const { world, person, now } = actor
  return await inTransaction(database, async () => {
    const changes = added(actor, [], edits)
    const made = await modelsOf(database).draft.create({
      identity: newIdentity('dr'),
      title,
      base: world.edition,
      changes,
      proposed,
      shared,
      madeBy: person.number,
      madeAt: now,
    })
    const draft = made.get({ plain: true })
    await audit(
      database,
      person.number,
      proposed ? 'proposed' : 'began a draft',
      `draft ${draft.identity}`,
      { after: { title, changes: changes.length } },
      now,
    )
    await announceDraft(database, draft, now)
    return await describeDraft(database, actor, draft)
  })
}

/** Changes with edits added. The document need not be sound yet, only well formed; publishing asks for more. */
export function added(
  { world: { whole: world }, person, now }: ActorContext,
  before: readonly Change[],
  edits: readonly Edit[],
): readonly Change[] {
  const overtakenOnes = overtaken(fold(world.document, before), edits)
  if (overtakenOnes.length > 0)
    throw stale(overtakenOnes.map(({ path, there }) => ({ pointer: `/${path.join('/')}`, there })))
  const made = (): Pick<Change, 'id' | 'by' | 'at'> => ({
    id: newIdentity('ch'),
    by: person.id,
    at: now.toISOString(),
  })
  const changes = addEdits(world.document, before, edits, made)
  const document = fold(world.document, changes)
  judge(DefinitionsDocument, document)
  const problems = judgeSuccession(world.document, document)
  if (problems.length > 0) throw invalid(problems)
  return changes
}

export function judgeVersion(draft: Draft, match: string): void {
  judgeMatch(match, draftEtag(draft), { changes: draft.changes.length })
}

export async function impactOf(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<ImpactAnswer> {
  const draft = await draftBy(database, actor, identity)
  const { changes } = await rebasedChanges(database, actor.world, draft)
  const { document: before } = actor.world.whole
  const document = fold(before, changes)
  const differences = diff(before, document)
  const found = impact(
    before,
    document,
    differences,
    await usageOf(database, actor.world, countedProjects(actor), {
      optionsOf: fieldsWithOptions(differences),
    }),
    draft.choices,
  )
  return {
    ...found,
    changes: await countChanges(database, actor, found.changes),
    items: await countTogether(database, actor, found.changes),
  }
}
