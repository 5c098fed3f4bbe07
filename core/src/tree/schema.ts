import { Type } from 'typebox'
import {
  type Answer,
  answer,
  type Contracts,
  orNull,
  reference,
  ShownChoice,
} from '../schema/index.ts'

const Below = answer('What stands below it, at all levels', {
  items: Type.Integer(),
  done: Type.Integer(),
  estimates: Type.Array(
    answer('Estimates of one unit', {
      unit: Type.Enum(['hours', 'points', 'days']),
      all: Type.Number(),
      done: Type.Number(),
    }),
  ),
})

export const TreeRow = answer('An item in its tree', {
  ref: Type.String(),
  parent: orNull(Type.String({ description: 'the row it stands below' })),
  title: Type.String(),
  type: ShownChoice,
  status: ShownChoice,
  assignee: orNull(Type.String()),
  onHold: Type.Boolean(),
  waits: Type.Array(answer('What it waits for', reference), {
    description: 'open items, each with the words of the link that leads there',
  }),
  directly: Type.Integer({ description: 'items directly below it that are shown' }),
  below: Below,
})

export const TreeAnswer = answer('The tree of a project', {
  rows: Type.Array(TreeRow, { description: 'each after what it stands below, in hand order' }),
  folded: Type.Integer({
    description: 'items that are left out since they were finished long ago',
  }),
  more: Type.Boolean({ description: 'whether there is more than is told at once' }),
})

export type TreeRow = Answer<typeof TreeRow>
export type TreeAnswer = Answer<typeof TreeAnswer>

/** how many days finished items stay in sight */
export const finishedFor = 14

export const treeContracts = {
  'GET /projects/{code}/tree': {
    query: Type.Partial(
      Type.Object({
        above: Type.String({ description: 'the item below which to begin; the top where none is' }),
        depth: Type.String({ pattern: '^[1-5]$', description: 'how many levels are told' }),
        finished: Type.Enum(['folded', 'shown']),
        'as-of': Type.String({
          maxLength: 40,
          description: 'a day or a moment; now where none is',
        }),
      }),
    ),
    answer: TreeAnswer,
  },
} satisfies Contracts
