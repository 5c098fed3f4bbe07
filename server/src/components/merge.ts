import { mergeInto } from '../items/mergeInto.ts'
import type { Component } from '../workspace/living.ts'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { changeVersion } from '../database/versioned.ts'
import { countHolding } from '../items/counts.ts'
import { lockEdition } from '../workspace/edition.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { modelsOf } from '../database/models/models.ts'
import { rewriteNow } from '../items/remap.ts'
import { judgeMerging, type Merged } from '../labels/merge.ts'
import { invalid } from '../problems/problem.ts'
import type { Renamed } from '../database/models/merge.ts'
import { recordMerge } from '../saved/merges.ts'
import { replaceNamed } from '../saved/replace.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { componentBy, judgeKeeping, recorded } from './service.ts'

/** Judges whether components may become one. @throws Problem that says why not */
function judgeTogether(component: Component, others: readonly Component[]): void {
  const wrong = others.find(
    (other) => other.id === component.id || other.project !== component.project,
  )
  if (!wrong) return
  throw invalid([
    {
      pointer: '/from',
      message:
        wrong.id === component.id
          ? 'A component cannot be merged into itself.'
          : `“${wrong.title}” belongs to another project.`,
      expected: 'other components of the same project',
    },
  ])
}

/** Lets items of a component be of another one, and retires it. @returns how many items there were, and what names the one now */
async function mergeOne(
  database: Sequelize,
  actor: ActorContext,
  other: Component,
  into: Component,
): Promise<{ items: number; renamed: Renamed[] }> {
  const { world, now } = actor
  const mapping = await mergeInto(database, actor, 'components', other.number, into.number)
  await rewriteNow(database, world.columns, [mapping], now)
  const renamed = await replaceNamed(database, other.id, into.id)
  await changeVersion(modelsOf(database).component, other.id, '*', { retired: true })
  const change = { before: other.title, after: into.title }
  const audience = { project: world.numbers.numberOf('project', into.project) }
  await recorded(database, actor, 'merged a component', other.id, change, audience)
  return { items: mapping.total, renamed }
}

/** Makes components of one project one: items of any of them are of the one, and the others are retired. */
export async function mergeComponents(
  database: Sequelize,
  actor: ActorContext,
  into: string,
  from: readonly string[],
): Promise<Omit<Merged, 'left'>> {
  const entry = componentBy(actor, into)
  const others = [...new Set(from)].map((id) => componentBy(actor, id))
  judgeKeeping(actor, entry.project)
  judgeTogether(entry, others)
  return await inTransaction(database, async () => {
    await lockEdition(database, 'UPDATE')
    await judgeMerging(database, 'component', [entry, ...others])
    let items = 0
    const renamed: Renamed[] = []
    for (const other of others) {
      const merged = await mergeOne(database, actor, other, entry)
      items += merged.items
      renamed.push(...merged.renamed)
    }
    await recordMerge(database, actor, { kind: 'components', into, from: others, renamed })
    const numbers = [entry, ...others].map((component) => component.number)
    return {
      items,
      held: await countHolding(
        database,
        'components',
        numbers,
        visibleProjects(actor.world, actor.person),
      ),
    }
  })
}
