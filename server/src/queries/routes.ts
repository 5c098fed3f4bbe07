import { search, Search } from './search.ts'
import { Type } from 'typebox'
import type { Cql2Json } from '@bluestem/core/queries'
import { QueryContent } from '@bluestem/core/views'
import { savedEndpoints } from '../saved/endpoints.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { filterForms } from './filter.ts'
import { Check, checked } from './check.ts'
import { vocabulary } from './vocabulary.ts'
import { takeQuery } from './content.ts'

export const queryEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'get',
    path: '/api/v1/items',
    role: 'viewer',
    summary: 'The answers of a filter.',
    answer: async (context) => ({ body: await search(context.database, context, context.query) }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/items/search',
    role: 'viewer',
    summary: 'The answers of a filter of any length.',
    body: Search,
    answer: async (context) => ({ body: await search(context.database, context, context.body) }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/queries/check',
    role: 'viewer',
    summary: 'A query in all its forms, or its errors with their places.',
    body: Check,
    answer: (context) => ({ body: checked(context) }),
  }),
  endpoint({
    method: 'get',
    path: '/api/v1/vocabulary',
    role: 'viewer',
    summary: 'Everything a query can name.',
    answer: (context) => ({
      body: vocabulary(context),
    }),
  }),
  ...savedEndpoints<QueryContent>({
    kind: 'query',
    plural: 'queries',
    content: Type.Unsafe<QueryContent>(QueryContent),
    take: takeQuery,
    show: ({ world }, kept) => ({
      ...kept,
      ...filterForms(world, kept.content.filter as Cql2Json),
    }),
  }),
]
