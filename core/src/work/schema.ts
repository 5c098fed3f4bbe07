import { type Static, type TSchema, Type } from 'typebox'

const choice = Type.Union([Type.String({ maxLength: 300 }), Type.Object({ id: Type.String() })], {
  description: 'its identity or its exact name',
})
const orEmpty = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()])
const several = Type.Array(choice, { maxItems: 200 })
const number = Type.Union(
  [
    Type.Number(),
    Type.String({ maxLength: 60 }),
    Type.Object({
      op: Type.Literal('decimal'),
      args: Type.Array(Type.String({ maxLength: 60 }), { minItems: 1, maxItems: 1 }),
    }),
  ],
  { description: 'a number, or its decimal text where a number would be rounded' },
)

/** What may be given of an item; the kinds of custom fields are judged against their definitions. */
const values = {
  description: orEmpty(Type.String()),
  status: choice,
  priority: orEmpty(choice),
  assignee: orEmpty(choice),
  parent: orEmpty(Type.String()),
  labels: several,
  components: several,
  iteration: orEmpty(choice),
  release: orEmpty(choice),
  estimate: orEmpty(number),
  remaining: orEmpty(number),
  start: orEmpty(Type.String()),
  due: orEmpty(Type.String()),
  on_hold: Type.Boolean(),
  hold_reason: orEmpty(Type.String()),
  position: Type.Object(
    { before: Type.Optional(Type.String()), after: Type.Optional(Type.String()) },
    { additionalProperties: false, description: 'refs of the neighbours it is put between' },
  ),
  fields: Type.Record(Type.String(), Type.Unknown(), {
    maxProperties: 100,
    description: 'custom fields by handle',
  }),
}

export const MakeItem = Type.Object(
  {
    project: Type.String(),
    type: choice,
    title: Type.String(),
    ...Type.Partial(Type.Object(values)).properties,
  },
  { additionalProperties: false, title: 'A new item' },
)
export const EditItem = Type.Partial(
  Type.Object({
    title: Type.String(),
    type: choice,
    comment: Type.String({
      minLength: 1,
      maxLength: 20_000,
      description: 'something said with the change',
    }),
    ...values,
  }),
  { additionalProperties: false, title: 'Changes to an item' },
)
export const MakeComment = Type.Object(
  { body: Type.String({ minLength: 1, maxLength: 20_000 }) },
  { additionalProperties: false, title: 'A comment' },
)

/** The built-in properties that people give; the others follow from what happens to an item. */
export const givenHandles: ReadonlySet<string> = new Set([
  'title',
  'type',
  ...Object.keys(values).filter((handle) => handle !== 'position' && handle !== 'fields'),
])

export type MakeItem = Static<typeof MakeItem>
export type EditItem = Static<typeof EditItem>
export type MakeComment = Static<typeof MakeComment>
