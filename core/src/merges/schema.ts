import { Type } from 'typebox'
import { type Answer, answer, type Contracts, reference } from '../schema/index.ts'

/** Labels or components that were made one, as long as that can be undone. */
export const Merge = answer('A merge that can be undone', {
  id: Type.Integer(),
  kind: Type.Enum(['labels', 'components']),
  into: answer('What they became', reference),
  from: Type.Array(answer('What became it', reference)),
  by: Type.String(),
  at: Type.String(),
})
export type Merge = Answer<typeof Merge>

export const mergeContracts = {
  'GET /merges': { answer: answer('Merges', { merges: Type.Array(Merge) }) },
  'POST /merges/{number}/undo': {
    answer: answer('A merge undone', {
      items: Type.Integer({ description: 'items that hold what they held before' }),
      changedSince: Type.Integer({
        description: 'queries, views and others that stay, since somebody changed them meanwhile',
      }),
    }),
  },
} satisfies Contracts
