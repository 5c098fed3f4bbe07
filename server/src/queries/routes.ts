import { search } from './search.ts'
import type { QueryContent } from '@bluestem/core/queries'
import { savedEndpoints } from '../saved/endpoints.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { filterForms } from './filter.ts'
import { checked } from './check.ts'
import { vocabulary } from './vocabulary.ts'
import { takeQuery } from './content.ts'

export const queryEndpoints: readonly Endpoint[] = [
  endpoint('GET /items', {
    role: 'viewer',
    summary: 'The answers of a filter.',
    answer: async (context) => ({ body: await search(context.database, context, context.query) }),
  }),
  endpoint('POST /items/search', {
    role: 'viewer',
    summary: 'The answers of a filter of any length.',
    answer: async (context) => ({ body: await search(context.database, context, context.body) }),
  }),
  endpoint('POST /queries/check', {
    role: 'viewer',
    summary: 'A query in all its forms, or its errors with their places.',
    answer: (context) => ({ body: checked(context.world, context.body) }),
  }),
  endpoint('GET /vocabulary', {
    role: 'viewer',
    summary: 'Everything a query can name.',
    answer: (context) => ({
      body: vocabulary(context),
    }),
  }),
  ...savedEndpoints<QueryContent>({
    kind: 'query',
    plural: 'queries',
    take: takeQuery,
    show: ({ world }, kept) => ({
      ...kept,
      ...filterForms(world, kept.content.filter),
    }),
  }),
]
