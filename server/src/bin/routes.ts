import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { bringBack, readBin } from './service.ts'

export const binEndpoints: readonly Endpoint[] = [
  endpoint('GET /bin', {
    role: 'viewer',
    summary: 'The items that were deleted in the last 30 days.',
    answer: async (context) => ({
      body: await readBin(context.database, context, context.query.words ?? ''),
    }),
  }),
  endpoint('POST /bin/bring-back', {
    role: 'member',
    summary: 'Brings deleted items back, with their links, comments and what stands below them.',
    answer: async (context) => ({
      body: { refs: await bringBack(context.database, context, context.body.refs) },
    }),
  }),
]
