import { type Static, Type } from 'typebox'

const handle = Type.String({ maxLength: 60 })

/** Columns and order of answers, as queries and views keep them. */
export const Order = Type.Array(
  Type.Object(
    { by: handle, direction: Type.Union([Type.Literal('up'), Type.Literal('down')]) },
    { additionalProperties: false },
  ),
  { maxItems: 5, title: 'Order' },
)
export type Order = Static<typeof Order>

export const QueryContent = Type.Object(
  {
    filter: Type.Unknown({ description: 'CQL2 JSON; choices by identity' }),
    columns: Type.Array(handle, { maxItems: 60 }),
    order: Order,
  },
  { additionalProperties: false, title: 'Query' },
)
export type QueryContent = Static<typeof QueryContent>

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
