import { Type } from 'typebox'
import { type Answer, answer, type Contracts, orNull } from '../schema/index.ts'

export const ActAnswer = answer('An act', {
  number: Type.Integer(),
  at: Type.String(),
  by: orNull(Type.String()),
  act: Type.String(),
  subject: Type.String({ description: 'the kind of what it was about, and its identity or code' }),
  title: orNull(Type.String({ description: 'of what it was about, as far as it is known' })),
  before: Type.Unknown(),
  after: Type.Unknown(),
  lines: Type.Array(
    answer('What it changed, in words', {
      part: Type.String(),
      before: orNull(Type.String()),
      after: orNull(Type.String()),
    }),
  ),
})

export type ActAnswer = Answer<typeof ActAnswer>

export const auditContracts = {
  'GET /audit': {
    query: Type.Partial(
      Type.Object({
        by: Type.String({ description: 'the identity of a person' }),
        act: Type.String(),
        words: Type.String(),
        from: Type.String({ description: 'the first day' }),
        to: Type.String({ description: 'the last day' }),
        before: Type.String({ description: 'the number of an act; earlier ones are told' }),
      }),
    ),
    answer: answer('The audit list', {
      acts: Type.Array(ActAnswer),
      kinds: Type.Array(Type.String()),
      more: orNull(Type.Integer({ description: 'the act before which to go on' })),
    }),
  },
} satisfies Contracts
