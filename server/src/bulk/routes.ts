import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { preview } from './preview.ts'
import { beginBulk, cancelBulk, listBulk, readBulk, undoBulk } from './service.ts'

export const bulkEndpoints: readonly Endpoint[] = [
  endpoint('POST /items/bulk/preview', {
    role: 'member',
    timeout: 60_000,
    summary:
      'What a change of many items would do: how many it changes, and which are refused and why.',
    answer: async (context) => ({ body: await preview(context.database, context, context.body) }),
  }),
  endpoint('POST /items/bulk', {
    role: 'member',
    timeout: 60_000,
    summary: 'Begins a change of many items, which a job carries out.',
    answer: async (context) => {
      const body = await beginBulk(context.database, context, context.body)
      return { status: 202, body, headers: { Location: `/api/v1/bulk/${body.id}` } }
    },
  }),
  endpoint('GET /bulk', {
    role: 'member',
    summary: 'The changes of many items that one made in the last 30 days.',
    answer: async (context) => ({ body: await listBulk(context.database, context) }),
  }),
  endpoint('GET /bulk/{id}', {
    role: 'member',
    summary: 'How far a change of many items is.',
    answer: async (context) => ({
      body: await readBulk(context.database, context, context.params.id),
    }),
  }),
  endpoint('DELETE /bulk/{id}', {
    role: 'member',
    summary: 'Cancels a change of many items: what it changed already is taken back.',
    answer: async (context) => ({
      body: await cancelBulk(context.database, context, context.params.id),
    }),
  }),
  endpoint('POST /bulk/{id}/undo', {
    role: 'member',
    summary: 'Takes back what a change of many items changed.',
    answer: async (context) => ({
      status: 202,
      body: await undoBulk(context.database, context, context.params.id),
    }),
  }),
]
