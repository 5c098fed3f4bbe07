import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { keepMapping, rewriteNow } from '../items/remap.ts'
import { countHolding, judgeMerging, type Merged } from '../labels/merge.ts'
import { invalid } from '../problems/problem.ts'
import { replaceNamed } from '../saved/replace.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { componentBy, judgeKeeping, recorded } from './service.ts'

/** Makes components of one project one: items of any of them are of the one, and the others are retired. */

export async function mergeComponents(
  database: Sequelize,
  acting: ActorContext,
  into: string,
  from: readonly string[],
): Promise<Omit<Merged, 'left'>> {
  const { world, person, now } = acting
  const [one, others] = [
    componentBy(acting, into),
    [...new Set(from)].map((id) => componentBy(acting, id)),
  ]
  judgeKeeping(acting, one.project)
  const wrong = others.find((other) => other.id === into || other.project !== one.project)
  if (wrong)
    throw invalid([
      {
        pointer: '/from',
        message:
          wrong.id === into
            ? 'A component cannot be merged into itself.'
            : `“${wrong.title}” belongs to another project.`,
        expected: 'other components of the same project',
      },
    ])
  return await inTransaction(database, async () => {
    await rows(database, 'SELECT number FROM current_edition FOR UPDATE')
    await judgeMerging(database, 'component', [one, ...others])
    const types = (await rows<{ number: number }>(database, 'SELECT number FROM item_type')).map(
      (type) => type.number,
    )
    let items = 0
    for (const other of others) {
      const mapping = await keepMapping(
        database,
        {
          edition: null,
          column: 'components',
          from: other.number,
          to: one.number,
          phase: null,
          several: true,
          projects: world.whole.projects.map((project) => project.number),
          types,
          author: { kind: 'bulk job', number: person.number },
        },
        now,
      )
      await rewriteNow(database, world.columns, [mapping], now)
      await replaceNamed(database, other.id, into)
      await run(
        database,
        'UPDATE component SET retired = true, version = version + 1 WHERE identity = $1',
        [other.id],
      )
      await recorded(
        database,
        acting,
        'merged a component',
        other.id,
        { before: other.title, after: one.title },
        { project: world.numbers.of('project', one.project)! },
      )
      items += mapping.total
    }
    return {
      items,
      held: await countHolding(database, acting, 'components', [
        one.number,
        ...others.map((other) => other.number),
      ]),
    }
  })
}
