import { type Static, Type } from 'typebox'
import type { Contracts } from '../schema/index.ts'

export const Export = Type.Object(
  {
    filter: Type.Optional(Type.Unknown()),
    'filter-lang': Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
    kept: Type.Optional(Type.Boolean({ description: 'choices in the JSON are identities' })),
    sort: Type.Optional(Type.String({ maxLength: 4000 })),
    fields: Type.Optional(Type.String({ maxLength: 8000 })),
    'as-of': Type.Optional(Type.String({ maxLength: 40 })),
    format: Type.Enum(['csv', 'json']),
  },
  { additionalProperties: false, title: 'Answers to take out' },
)

export type Export = Static<typeof Export>

export const exchangeContracts = {
  'POST /items/export': {
    body: Export,
    answer: Type.String({ description: 'the file: CSV (RFC 4180) in UTF-8, or JSON' }),
  },
} satisfies Contracts
