import { type Static, Type } from 'typebox'
import { type Answer, answer, type Contracts, orNull } from '../schema/index.ts'
import { EditItem } from '../work/schema.ts'

const handle = Type.String({ maxLength: 60 })
const identity = Type.String({ maxLength: 80 })
const byHandle = Type.Record(handle, Type.Array(identity, { minItems: 1, maxItems: 200 }), {
  maxProperties: 20,
})

const {
  title: _title,
  description: _description,
  position: _position,
  ...set
} = EditItem.properties

/** What is to become of each of many items. */
export const BulkChange = Type.Object(
  {
    set: Type.Optional(
      Type.Object(set, {
        additionalProperties: false,
        description: 'values that all of them get, custom ones under `fields`',
      }),
    ),
    add: Type.Optional({ ...byHandle, description: 'values added where several can be held' }),
    remove: Type.Optional({ ...byHandle, description: 'values taken away where several are held' }),
    statuses: Type.Optional(
      Type.Record(identity, identity, {
        maxProperties: 200,
        description:
          'with another type or project: what a status becomes that its flow does not have',
      }),
    ),
    project: Type.Optional({ ...identity, description: 'the project that all of them go to' }),
    types: Type.Optional(
      Type.Record(identity, identity, {
        maxProperties: 200,
        description: 'with another project: what a type becomes that it does not offer',
      }),
    ),
    delete: Type.Optional(Type.Literal(true)),
  },
  { additionalProperties: false, title: 'A change of many items' },
)

/** Which items are meant: some by their refs, or all answers of a query but a few. */
const BulkItems = Type.Union([
  Type.Object(
    { refs: Type.Array(Type.String({ maxLength: 30 }), { minItems: 1, maxItems: 50_000 }) },
    { additionalProperties: false },
  ),
  Type.Object(
    {
      filter: Type.Unknown(),
      'filter-lang': Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
      kept: Type.Optional(Type.Boolean({ description: 'choices in the JSON are identities' })),
      except: Type.Optional(Type.Array(Type.String({ maxLength: 30 }), { maxItems: 5000 })),
    },
    { additionalProperties: false },
  ),
])

const asked = { items: BulkItems, change: BulkChange }

export const BulkPreview = Type.Object(asked, {
  additionalProperties: false,
  title: 'A change of many items to look at',
})

export const NewBulk = Type.Object(
  {
    ...asked,
    total: Type.Integer({ description: 'how many items the preview counted' }),
  },
  { additionalProperties: false, title: 'A change of many items to carry out' },
)

const count = Type.Integer()

/** One reason for which items are left as they are. */
const BulkRefusal = answer('Why items are refused, or what else becomes of them', {
  message: Type.String(),
  count,
  refs: Type.Array(Type.String(), { description: 'the first of them' }),
})

const counts = {
  total: count,
  changed: count,
  same: Type.Integer({ description: 'items that are like that already' }),
  refused: Type.Array(BulkRefusal),
}

const BulkPreviewAnswer = answer('What a change of many items would do', {
  ...counts,
  besides: Type.Array(BulkRefusal, { description: 'what else becomes of items that go elsewhere' }),
  words: Type.Array(Type.String()),
})

export const BulkAnswer = answer('A change of many items', {
  id: Type.String(),
  words: Type.Array(Type.String()),
  by: Type.String(),
  at: Type.String(),
  state: Type.Enum(['waiting', 'at work', 'done', 'taking back', 'cancelled']),
  undoes: orNull(Type.String({ description: 'the change that this one takes back' })),
  undoable: Type.Boolean(),
  done: count,
  takenBack: count,
  ...counts,
})

export type BulkChange = Static<typeof BulkChange>
export type BulkItems = Static<typeof BulkItems>
export type BulkPreview = Static<typeof BulkPreview>
export type NewBulk = Static<typeof NewBulk>
export type BulkRefusal = Answer<typeof BulkRefusal>
export type BulkPreviewAnswer = Answer<typeof BulkPreviewAnswer>
export type BulkAnswer = Answer<typeof BulkAnswer>

export const bulkContracts = {
  'POST /items/bulk/preview': { body: BulkPreview, answer: BulkPreviewAnswer },
  'POST /items/bulk': { body: NewBulk, answer: BulkAnswer },
  'GET /bulk': { answer: answer('Changes of many items', { bulk: Type.Array(BulkAnswer) }) },
  'GET /bulk/{id}': { answer: BulkAnswer },
  'DELETE /bulk/{id}': { answer: BulkAnswer },
  'POST /bulk/{id}/undo': { answer: BulkAnswer },
} satisfies Contracts
