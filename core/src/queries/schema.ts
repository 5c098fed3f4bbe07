import { type Static, Type } from 'typebox'
import {
  type Immutable,
  type Answer,
  answer,
  type Contracts,
  orNull,
  ShownChoice,
} from '../schema/index.ts'
import { savedSchemas, SavedUsage } from '../saved/schema.ts'
import type { FunctionEntry } from './functions/entry.ts'
import type { QueryError } from './tree/tree.ts'
import type { Domain, Property } from './tree/checked.ts'

export const handle = Type.String({ maxLength: 60 })

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

/** The same in an address, where everything is text. */
const SearchByAddress = Type.Partial(
  Type.Object({
    filter: Type.String(),
    'filter-lang': Type.Enum(['cql2-text', 'cql2-json']),
    sort: Type.String(),
    fields: Type.String(),
    limit: Type.String(),
    offset: Type.String(),
    cursor: Type.String(),
    'as-of': Type.String(),
  }),
)

export const Check = Type.Object(
  {
    filter: Type.Unknown(),
    filterLang: Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
    kept: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false, title: 'A query to check' },
)

const Line = answer('A line of a query read as a sentence', {
  depth: Type.Integer(),
  lead: Type.String(),
  parts: Type.Array(
    answer('A piece of a line', {
      text: Type.String(),
      value: Type.Optional(Type.Literal(true)),
    }),
  ),
})

const QueryErrorAnswer = Type.Unsafe<QueryError>(
  answer('One thing wrong with a query', {
    message: Type.String(),
    expected: Type.Optional(Type.String()),
    found: Type.Optional(Type.String()),
    nearest: Type.Optional(Type.String()),
    from: Type.Integer(),
    to: Type.Integer(),
    pointer: Type.Optional(Type.String()),
  }),
)

/** A kept filter as it is told: its text and its sentence, or what is wrong with it since something it names is gone. */
export const filterForms = {
  text: Type.String(),
  sentence: Type.Array(Line),
  errors: Type.Array(QueryErrorAnswer),
}

export const CheckAnswer = Type.Union([
  answer('A query in all its forms', {
    ok: Type.Literal(true),
    textMessage: orNull(Type.String({ description: 'why it cannot be written as text' })),
    json: Type.Unknown(),
    kept: Type.Unknown(),
    ...filterForms,
  }),
  answer('What is wrong with a query', {
    ok: Type.Literal(false),
    errors: Type.Array(QueryErrorAnswer),
  }),
])

/** A choice with its spellings in a query. */
const NamedChoice = answer('A choice a query can name', {
  ...ShownChoice.properties,
  name: Type.String(),
  qualified: Type.String({ description: 'the spelling that is never ambiguous' }),
  retired: Type.Optional(Type.Literal(true)),
  own: Type.Optional(Type.String({ description: 'a label without its family' })),
  familyId: Type.Optional(Type.String()),
  project: Type.Optional(Type.String({ description: 'whose own it is' })),
  projects: Type.Optional(Type.Array(Type.String(), { description: 'those a release belongs to' })),
})

/** A property; of a computed one only how it comes about. */
export type PropertyAnswer = Property & { readonly computedBy?: 'score' | 'roll-up' }
const PropertyAnswer = Type.Unsafe<PropertyAnswer>(
  answer('A property', {
    handle: Type.String(),
    title: Type.String(),
    type: Type.Object({ kind: Type.String(), domain: Type.Optional(Type.String()) }),
    changesWith: Type.Array(Type.String()),
    nullable: Type.Boolean(),
    builtIn: Type.Boolean(),
    long: Type.Optional(Type.Literal(true)),
    orderOnly: Type.Optional(Type.Boolean()),
    leftOf: Type.Optional(Type.String()),
    computedBy: Type.Optional(Type.Enum(['score', 'roll-up'])),
  }),
)

const FunctionAnswer = Type.Unsafe<Omit<FunctionEntry, 'value'> & { readonly name: string }>(
  answer('A function', {
    name: Type.String(),
    forms: Type.Array(
      Type.Array(Type.Object({ kind: Type.String(), name: Type.String() }), {
        description: 'the parameters of one way to call it',
      }),
    ),
    result: Type.Object({ kind: Type.String(), domain: Type.Optional(Type.String()) }),
    changesWith: Type.Array(Type.String()),
    nullable: Type.Boolean(),
    sentence: Type.String(),
    doc: Type.String(),
  }),
)

export const VocabularyAnswer = answer('Everything a query can name', {
  edition: Type.Integer(),
  zone: Type.String(),
  workspace: Type.String(),
  today: Type.String(),
  properties: Type.Array(PropertyAnswer),
  functions: Type.Array(FunctionAnswer),
  choices: Type.Unsafe<Readonly<Record<Domain, readonly NamedChoice[]>>>(
    Type.Record(Type.String(), Type.Array(NamedChoice)),
  ),
  projects: Type.Array(
    answer('A project a query can name', {
      id: Type.String(),
      code: Type.String(),
      title: Type.String(),
      description: Type.String(),
      open: Type.Boolean(),
      rulebook: orNull(Type.String()),
    }),
  ),
})

/** Columns and order of answers, as queries and views keep them. */
export const Order = Type.Array(
  Type.Object(
    { by: handle, direction: Type.Union([Type.Literal('up'), Type.Literal('down')]) },
    { additionalProperties: false },
  ),
  { maxItems: 5, title: 'Order' },
)
export type Order = Immutable<Static<typeof Order>>

export const QueryContent = Type.Object(
  {
    filter: Type.Unknown({ description: 'CQL2 JSON; choices by identity' }),
    columns: Type.Array(handle, { maxItems: 60 }),
    order: Order,
  },
  { additionalProperties: false, title: 'Query' },
)
export type QueryContent = Immutable<Static<typeof QueryContent>>

/** An item as lists show it: what every item tells, and the fields that were asked for. */
export const ItemAnswer = Type.Object(
  {
    ref: Type.String(),
    type: ShownChoice,
    title: Type.String(),
    on_hold: Type.Boolean(),
    status: Type.Optional(ShownChoice),
    etag: Type.Optional(
      Type.String({ description: 'its version, for which a change is meant; none for the past' }),
    ),
    fields: Type.Optional(
      Type.Record(Type.String(), Type.Unknown(), { description: 'custom fields by handle' }),
    ),
  },
  { additionalProperties: Type.Unknown(), title: 'An item' },
)

export const ItemsAnswer = answer('A page of answers', {
  items: Type.Array(ItemAnswer),
  total: Type.Integer(),
  cannotTell: Type.Integer({ description: 'items of which the filter is neither true nor false' }),
  next: orNull(Type.String({ description: 'the cursor of the next page' })),
})

const { New, Change, Saved } = savedSchemas('query', QueryContent, filterForms)

export type Search = Static<typeof Search>
export type Check = Static<typeof Check>
export type CheckAnswer = Answer<typeof CheckAnswer>
export type NamedChoice = Answer<typeof NamedChoice>
export type VocabularyAnswer = Answer<typeof VocabularyAnswer>
export type ItemAnswer = Answer<typeof ItemAnswer> & Readonly<Record<string, unknown>>
export type ItemsAnswer = Answer<typeof ItemsAnswer> & { readonly items: readonly ItemAnswer[] }

export type SavedQuery = Answer<typeof Saved>

export const queryContracts = {
  'GET /items': { query: SearchByAddress, answer: ItemsAnswer },
  'POST /items/search': { body: Search, answer: ItemsAnswer },
  'POST /queries/check': { body: Check, answer: CheckAnswer },
  'GET /vocabulary': { answer: VocabularyAnswer },
  'GET /queries': { answer: answer('Queries', { queries: Type.Array(Saved) }) },
  'POST /queries': { body: New, answer: Saved },
  'GET /queries/{id}': { answer: Saved },
  'PATCH /queries/{id}': { body: Change, answer: Saved },
  'DELETE /queries/{id}': {},
  'GET /queries/{id}/usage': { answer: SavedUsage },
} satisfies Contracts
