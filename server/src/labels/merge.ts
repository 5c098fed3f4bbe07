import { mergeInto } from '../items/mergeInto.ts'
import type { Label } from '../workspace/living.ts'
import { type Sequelize, Transaction } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { changeVersion } from '../database/versioned.ts'
import { modelsOf } from '../database/models/models.ts'
import { forbidden, invalid, refused } from '../problems/problem.ts'
import { atOnce, rewriteNow } from '../items/remap.ts'
import { announce } from '../sql/outbox.ts'
import { addJob } from '../jobs/queue.ts'
import type { Renamed } from '../database/models/merge.ts'
import { recordMerge } from '../saved/merges.ts'
import { replaceNamed } from '../saved/replace.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { lockEdition } from '../workspace/edition.ts'
import { countHolding } from '../items/counts.ts'
import { judgeChanging } from './judge.ts'
import { changeLabel, labelBy, recorded } from './service.ts'
import { visibleProjects } from '../workspace/visibility.ts'

/** What a merge did: items that held one of the others, those of them a job still rewrites, and all that hold the one now. */
export interface Merged {
  readonly items: number
  readonly left: number
  readonly held: number
}

/** Of two merges that concern the same, the later one is told. Whoever merges holds all of them until it is done. */
export async function judgeMerging(
  database: Sequelize,
  table: 'label' | 'component',
  merged: readonly Pick<Label, 'id' | 'title' | 'version'>[],
): Promise<void> {
  const where = { identity: merged.map((entry) => entry.id) }
  const options = { where, order: ['id'], lock: Transaction.LOCK.UPDATE }
  const models = modelsOf(database)
  const found =
    table === 'label'
      ? await models.label.findAll(options)
      : await models.component.findAll(options)
  const versions = new Map(found.map((entry) => [entry.identity, entry.version]))
  const changed = merged.find((entry) => versions.get(entry.id) !== entry.version)
  if (changed)
    throw refused(
      `Somebody changed “${changed.title}” at this moment; look at what is there now, then merge.`,
    )
}

/** Judges whether several labels may become one. @throws Problem that says why not */
function judgeTogether({ world }: ActorContext, entry: Label, others: readonly Label[]): void {
  if (others.some((label) => label.id === entry.id))
    throw invalid([
      {
        pointer: '/from',
        message: 'A label cannot be merged into itself.',
        expected: 'other labels',
      },
    ])
  if (entry.retired)
    throw refused(`“${entry.title}” is retired; bring it back first, or merge into another.`)
  const family = entry.family === null ? undefined : world.document.families[entry.family]
  if (family?.pick === 'one' && others.some((label) => label.family !== entry.family))
    throw refused(
      `“${family.title}” is pick one, so only labels of the same family can become “${entry.title}”: an item might hold two of them.`,
    )
}

const audienceOf = ({ world }: ActorContext, { project }: Label): { project: number | null } => ({
  project: world.numbers.of('project', project ?? '') ?? null,
})

/** Lets items that hold a label hold another one, and retires it. @returns how many items, whether a job rewrites them, and what names the other now */
async function mergeOne(
  database: Sequelize,
  actor: ActorContext,
  label: Label,
  into: Label,
  most: number,
): Promise<{ items: number; later: boolean; renamed: Renamed[] }> {
  const { world, person, now } = actor
  const mapping = await mergeInto(database, actor, 'labels', label.number, into.number)
  const later = mapping.total > most
  if (later)
    await addJob(
      database,
      {
        kind: 'mapping',
        subject: `merge ${mapping.id}`,
        at: now,
        by: person.number,
        total: mapping.total,
      },
      now,
    )
  else await rewriteNow(database, world.columns, [mapping], now)
  const renamed = await replaceNamed(database, label.id, into.id)
  await changeVersion(modelsOf(database).label, label.id, '*', { retired: true })
  const change = {
    before: { title: label.title, items: mapping.total },
    after: { into: into.id, title: into.title },
  }
  await recorded(database, actor, 'merged a label', label.id, change, audienceOf(actor, label))
  return { items: mapping.total, later, renamed }
}

/**
 * Makes several labels one: items that hold any of them hold the one, what is kept asks for the one, and the others are retired.
 * Few items are rewritten at once, many by a job; until it is done questions count the others as the one already.
 */
export async function mergeLabels(
  database: Sequelize,
  actor: ActorContext,
  into: string,
  from: readonly string[],
  most = atOnce,
): Promise<Merged> {
  const entry = labelBy(actor, into)
  const others = [...new Set(from)].map((id) => labelBy(actor, id))
  for (const label of [entry, ...others]) judgeChanging(actor, label)
  judgeTogether(actor, entry, others)
  return await inTransaction(database, async () => {
    await lockEdition(database, 'UPDATE')
    await judgeMerging(database, 'label', [entry, ...others])
    let [items, left] = [0, 0]
    const renamed: Renamed[] = []
    for (const label of others) {
      const merged = await mergeOne(database, actor, label, entry, most)
      items += merged.items
      renamed.push(...merged.renamed)
      if (merged.later) left += merged.items
    }
    await recordMerge(database, actor, { kind: 'labels', into, from: others, renamed })
    await announce(database, 'label', into, audienceOf(actor, entry), actor.now)
    const numbers = [entry, ...others].map((label) => label.number)
    return {
      items,
      left,
      held: await countHolding(
        database,
        'labels',
        numbers,
        visibleProjects(actor.world, actor.person),
      ),
    }
  })
}

/** Lifts a project's label into a family that everyone shares, and makes its copies in other projects one with it. */
export async function liftLabel(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  family: string | null,
  copies: readonly string[],
): Promise<Merged> {
  if (actor.person.role !== 'administrator')
    throw forbidden('Only administrators lift a label into what everyone shares.')
  const label = labelBy(actor, id)
  const lifted = {
    ...label,
    ...(await changeLabel(database, actor, id, { family, project: null, retired: false }, '*')),
  }
  const world = { ...actor.world, labelOf: new Map([...actor.world.labelOf, [id, lifted]]) }
  return copies.length === 0
    ? {
        items: 0,
        left: 0,
        held: await countHolding(
          database,
          'labels',
          [label.number],
          visibleProjects(actor.world, actor.person),
        ),
      }
    : await mergeLabels(database, { ...actor, world }, id, copies)
}
