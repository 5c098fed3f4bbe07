import { firstIn } from '@bluestem/core/known'
import type { ScoreAnswer, Score } from '@bluestem/core/definitions'
import { type Property, readCondition, readScore } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { answer } from '../queries/answers.ts'
import { count } from '../sql/run.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { countStatement } from '../sql/answers.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** No field can have this handle: those of fields begin with a letter. */
const handle = '_previewed'

/** The order a score would give to open work, before it is kept; what is wrong with the formula where it cannot be read. */
export async function previewScore(
  database: Sequelize,
  { world, person, now }: ActorContext,
  { formula, empty = null }: Score,
): Promise<ScoreAnswer> {
  const read = readScore(formula, world.vocabulary)
  if (!read.ok) return { items: [], without: 0, errors: read.errors }
  const property: Property = {
    handle,
    title: 'Score',
    type: { kind: 'number' },
    changesWith: ['own'],
    nullable: true,
    builtIn: false,
    computed: { kind: 'score', value: read.value, empty },
  }
  const vocabulary = {
    ...world.vocabulary,
    properties: new Map([...world.vocabulary.properties, [handle, property]]),
  }
  const queryContext = queryContextOf({ ...world, vocabulary }, person, now)
  const open = { op: 'in', args: [{ property: 'phase' }, ['idle', 'active']] }
  const condition = (filter: unknown) => {
    const outcome = readCondition({ lang: 'cql2-json', filter, spelling: 'identity' }, vocabulary)
    if (!outcome.ok) throw new Error(firstIn(outcome.errors).message)
    return outcome.value
  }
  const { items } = await answer(database, queryContext, condition(open), {
    sort: `-${handle}`,
    fields: `ref,title,${handle}`,
    limit: 8,
  })
  const without = await count(
    database,
    countStatement(
      queryContext,
      condition({ op: 'and', args: [open, { op: 'isNull', args: [{ property: handle }] }] }),
    ),
  )
  return {
    items: items.map((item) => ({
      ref: item.ref,
      title: item.title,
      score: scoreOf(item.fields?.[handle]),
    })),
    without,
    errors: [],
  }
}

/** A score as it travels: a number, or text where a number would lose digits. */
const scoreOf = (value: unknown): number | string | null =>
  typeof value === 'number' || typeof value === 'string' ? value : null
