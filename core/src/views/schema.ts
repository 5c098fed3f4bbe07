import { type Static, Type } from 'typebox'
import { handle, ItemAnswer, Order } from '../queries/schema.ts'
import { savedSchemas, SavedUsage } from '../saved/schema.ts'
import {
  type Answer,
  answer,
  type Contracts,
  orNull,
  reference,
  ShownChoice,
} from '../schema/index.ts'

export const Board = Type.Object(
  {
    by: handle,
    columns: Type.Array(Type.Union([Type.String(), Type.Null()]), {
      maxItems: 40,
      description: 'values that have a column, in order; null stands for empty',
    }),
    cards: Type.Array(handle, { maxItems: 12, description: 'fields shown on a card' }),
    finishedWithin: Type.Union([Type.Integer({ minimum: 0, maximum: 3650 }), Type.Null()], {
      description: 'days after which finished items are no longer shown; null shows them all',
    }),
  },
  { additionalProperties: false, title: 'Board' },
)
export type Board = Static<typeof Board>

export const ViewContent = Type.Object(
  {
    query: Type.String(),
    kind: Type.Union([Type.Literal('list'), Type.Literal('board')]),
    columns: Type.Array(handle, { maxItems: 60 }),
    order: Order,
    group: Type.Union([handle, Type.Null()]),
    board: Type.Union([Board, Type.Null()]),
  },
  { additionalProperties: false, title: 'View' },
)
export type ViewContent = Static<typeof ViewContent>

export const ArrangeView = Type.Object(
  {
    view: ViewContent,
    cards: Type.Optional(
      Type.Integer({ minimum: 1, maximum: 1000, description: 'cards of each column of a board' }),
    ),
  },
  { additionalProperties: false, title: 'A view to arrange' },
)

/** The items of a view that hold one value. */
const standing = {
  value: orNull(Type.String()),
  count: Type.Integer(),
  shown: orNull(ShownChoice),
}
export const StandingAnswer = answer('Items that hold one value', {
  ...standing,
  late: Type.Optional(Type.Integer({ description: 'those finished too long ago to be shown' })),
})

export const ColumnAnswer = answer('A column of a board', {
  ...standing,
  cards: Type.Array(ItemAnswer),
})

const arranged = {
  query: answer('The query behind it', reference),
  filter: Type.Unknown({ description: 'the filter of the query; choices by identity' }),
  cannotTell: Type.Integer({ description: 'items of which the filter is neither true nor false' }),
  total: Type.Integer(),
}

export const ArrangedList = answer('A list as it stands', {
  ...arranged,
  groups: orNull(Type.Array(StandingAnswer)),
})

export const ArrangedBoard = answer('A board as it stands', {
  ...arranged,
  columns: Type.Array(ColumnAnswer),
  elsewhere: Type.Array(StandingAnswer, { description: 'values without a column' }),
  shown: Type.Integer(),
  finishedLongAgo: Type.Integer({ description: 'items finished too long ago to be shown' }),
  finishedBefore: orNull(Type.String()),
})

const { New, Change, Saved } = savedSchemas('view', ViewContent, {})

export type ArrangeView = Static<typeof ArrangeView>
export type StandingAnswer = Answer<typeof StandingAnswer>
export type ColumnAnswer = Answer<typeof ColumnAnswer>
export type ArrangedList = Answer<typeof ArrangedList>
export type ArrangedBoard = Answer<typeof ArrangedBoard>
export type SavedView = Answer<typeof Saved>

export const viewContracts = {
  'POST /views/arrange': {
    query: Type.Partial(Type.Object({ 'as-of': Type.String() })),
    body: ArrangeView,
    answer: Type.Union([ArrangedList, ArrangedBoard]),
  },
  'GET /views': { answer: answer('Views', { views: Type.Array(Saved) }) },
  'POST /views': { body: New, answer: Saved },
  'GET /views/{id}': { answer: Saved },
  'PATCH /views/{id}': { body: Change, answer: Saved },
  'DELETE /views/{id}': {},
  'GET /views/{id}/usage': { answer: SavedUsage },
} satisfies Contracts
