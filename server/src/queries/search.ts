import type { ItemsAnswer } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { answer, type Question } from './answers.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { readQuestion } from './filter.ts'
import type { ActorContext } from '../workspace/actor.ts'

export async function search(
  database: Sequelize,
  context: ActorContext,
  question: Question & { kept?: boolean },
): Promise<ItemsAnswer> {
  const condition = readQuestion(context.world, question)
  return await answer(
    database,
    queryContextOf(context.world, context.person, context.now, question['as-of']),
    condition,
    question,
  )
}
