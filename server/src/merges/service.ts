import { certain, firstIn } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import { same } from '@bluestem/core/definitions'
import { type Sequelize, Transaction } from 'sequelize'
import { componentBy, judgeKeeping, recorded as recordedComponent } from '../components/service.ts'
import { inTransaction } from '../database/connect.ts'
import type { MergeModel, Renamed } from '../database/models/merge.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import { undoMergeOfItems } from '../items/undoMerge.ts'
import { judgeChanging } from '../labels/judge.ts'
import { labelBy, recorded as recordedLabel } from '../labels/service.ts'
import { notFound, type Problem, refused } from '../problems/problem.ts'
import { announce } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { lockEdition } from '../workspace/edition.ts'

/** The greatest number that the database gives. */
const mostId = 2 ** 31 - 1

type Kind = MergeModel['kind']
const domains = { labels: 'label', components: 'component' } as const

/** A label or a component that somebody may change. @throws Problem where they may not, or see none */
function changeable(actor: ActorContext, kind: Kind, id: string) {
  if (kind === 'labels') {
    const label = labelBy(actor, id)
    judgeChanging(actor, label)
    return label
  }
  const component = componentBy(actor, id)
  judgeKeeping(actor, component.project)
  return component
}

/** All that a merge made one, the one first. @throws Problem where somebody may not change one of them */
const partsOf = (actor: ActorContext, { kind, into, from }: MergeModel) =>
  [into, ...from].map((id) => changeable(actor, kind, id))

/** Whether two merges have a label or a component in common: then what items held before one cannot be told apart from the other. */
const overlap = (merge: MergeModel, other: MergeModel): boolean =>
  merge.kind === other.kind &&
  [merge.into, ...merge.from].some((id) => id === other.into || other.from.includes(id))

/** Why a merge can not be undone, if it can not; `open` are those that are not undone yet. */
function whyNot(
  actor: ActorContext,
  merge: MergeModel,
  open: readonly MergeModel[],
): Problem | undefined {
  const { world } = actor
  if (merge.undoneAt) return refused('This merge is undone already.')
  if (merge.edition !== world.edition)
    return refused('An edition was published since, so this merge can no longer be undone.')
  if (open.some((entry) => entry.id > merge.id && overlap(entry, merge)))
    return refused('Something was made one with these since; undo that first.')
  const [, ...others] = partsOf(actor, merge)
  const back = others.find((other) => !other.retired)
  if (back)
    return refused(`“${back.title}” was brought back since, so this merge can no longer be undone.`)
  const numbers = others.map(({ number }) => number)
  const isUnderWay = world.mappings.some(
    ({ column, from }) => column === merge.kind && numbers.includes(from),
  )
  return isUnderWay
    ? refused('Items are still being rewritten by this merge; undo it when that is done.')
    : undefined
}

/** The merges since the last edition that are not undone, the latest first. */
const openMerges = async (database: Sequelize, { world }: ActorContext): Promise<MergeModel[]> =>
  await modelsOf(database).merge.findAll({
    where: { edition: world.edition, undoneAt: null },
    order: [['id', 'DESC']],
  })

/** The merges that somebody can still undo, the latest first. */
export async function merges(
  database: Sequelize,
  actor: ActorContext,
): Promise<AnswerOf<'GET /merges'>> {
  const found = await openMerges(database, actor)
  const undoable = found.filter((merge) => {
    try {
      return whyNot(actor, merge, found) === undefined
    } catch {
      // Whoever may not change what was made one has nothing to undo.
      return false
    }
  })
  return {
    merges: undoable.map((merge) => {
      const [into, ...from] = partsOf(actor, merge).map(({ id, title }) => ({ id, title }))
      const by = actor.world.people.find(({ number }) => number === merge.madeBy)?.name ?? ''
      return {
        id: merge.id,
        kind: merge.kind,
        into: certain(into, 'one that is left of a merge'),
        from,
        by,
        at: merge.madeAt.toISOString(),
      }
    }),
  }
}

/** Lets what is saved name the others again, but what somebody changed meanwhile. @returns how much of it stays as it is */
async function nameAgain(database: Sequelize, renamed: readonly Renamed[]): Promise<number> {
  let changedSince = 0
  const models = modelsOf(database)
  for (const { table, id, before, after } of renamed) {
    // All four tables of what is saved have the columns that are read here.
    const found = await (models[table] as typeof models.query).findByPk(id, {
      lock: Transaction.LOCK.UPDATE,
    })
    if (found && same(found.content, after)) await found.update({ content: before })
    else changedSince += 1
  }
  return changedSince
}

/** Undoes a merge, as long as no edition was published and nothing it made one was brought back since. */
export async function undoMerge(
  database: Sequelize,
  actor: ActorContext,
  id: number,
): Promise<AnswerOf<'POST /merges/{number}/undo'>> {
  return await inTransaction(database, async () => {
    await lockEdition(database, 'UPDATE')
    const models = modelsOf(database)
    const merge =
      id >= 1 && id <= mostId
        ? await models.merge.findByPk(id, { lock: Transaction.LOCK.UPDATE })
        : null
    if (!merge) throw notFound('merge of this number')
    const problem = whyNot(actor, merge, await openMerges(database, actor))
    if (problem) throw problem
    const parts = partsOf(actor, merge)
    const into = firstIn(parts)
    const others = parts.slice(1)
    const items = await undoMergeOfItems(database, actor, {
      column: merge.kind,
      into: into.number,
      from: others.map(({ number }) => number),
      at: merge.madeAt,
    })
    const changedSince = await nameAgain(database, merge.renamed)
    const domain = domains[merge.kind]
    for (const entry of others.filter(({ id: other }) => !merge.retired.includes(other)))
      // Both tables have the column that is set here.
      await changeVersion(models[domain] as typeof models.label, entry.id, '*', { retired: false })
    await merge.update({ undoneAt: actor.now })
    const audience = { project: actor.world.numbers.of('project', into.project ?? '') ?? null }
    const change = { before: { title: into.title }, after: { items } }
    const recorded = merge.kind === 'labels' ? recordedLabel : recordedComponent
    await recorded(database, actor, `undid a merge of ${merge.kind}`, into.id, change, audience)
    await announce(database, domain, into.id, audience, actor.now)
    return { items, changedSince }
  })
}
