import { type Static, Type } from 'typebox'
import { type Answer, answer, type Contracts, ShownChoice } from '../schema/index.ts'

export const BinItem = answer('A deleted item', {
  ref: Type.String(),
  title: Type.String(),
  type: ShownChoice,
  by: Type.String({ description: 'who deleted it' }),
  at: Type.String(),
  until: Type.String({ description: 'until when it can be brought back' }),
})

export const BringBack = Type.Object(
  { refs: Type.Array(Type.String({ maxLength: 30 }), { minItems: 1, maxItems: 500 }) },
  { additionalProperties: false, title: 'Deleted items to bring back' },
)

export type BinItem = Answer<typeof BinItem>
export type BringBack = Static<typeof BringBack>

export const binContracts = {
  'GET /bin': {
    query: Type.Partial(
      Type.Object({
        words: Type.String({ maxLength: 200, description: 'what a title or a ref holds' }),
      }),
    ),
    answer: answer('The bin', {
      items: Type.Array(BinItem, { description: 'the latest first' }),
      total: Type.Integer(),
    }),
  },
  'POST /bin/bring-back': {
    body: BringBack,
    answer: answer('What came back', { refs: Type.Array(Type.String()) }),
  },
} satisfies Contracts
