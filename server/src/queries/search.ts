import { Type } from 'typebox'
import type { Sequelize } from 'sequelize'
import { answer, type Question } from './answers.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { readFilter, readSavedFilter } from './filter.ts'
import type { ActorContext } from '../workspace/actor.ts'

export const Search = Type.Object(
  {
    filter: Type.Optional(Type.Unknown()),
    'filter-lang': Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
    kept: Type.Optional(Type.Boolean({ description: 'choices in the JSON are identities' })),
    sort: Type.Optional(Type.String({ maxLength: 4000 })),
    fields: Type.Optional(Type.String({ maxLength: 8000 })),
    limit: Type.Optional(Type.Integer()),
    offset: Type.Optional(Type.Integer()),
    cursor: Type.Optional(Type.String({ maxLength: 8000 })),
    'as-of': Type.Optional(Type.String({ maxLength: 40 })),
  },
  { additionalProperties: false, title: 'A question' },
)

export async function search(
  database: Sequelize,
  context: ActorContext,
  question: Question & { kept?: boolean },
): Promise<object> {
  const condition = question.kept
    ? readSavedFilter(context.world, question.filter ?? true)
    : readFilter(context.world, question.filter, question['filter-lang'])
  return await answer(
    database,
    queryContextOf(context.world, context.person, context.now, question['as-of']),
    condition,
    question,
  )
}
