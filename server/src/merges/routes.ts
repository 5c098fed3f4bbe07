import { type Endpoint, endpoint } from '../http/endpoint.ts'
import { merges, undoMerge } from './service.ts'

export const mergeEndpoints: readonly Endpoint[] = [
  endpoint('GET /merges', {
    role: 'member',
    summary: 'What was made one and can still be undone.',
    answer: async (context) => ({ body: await merges(context.database, context) }),
  }),
  endpoint('POST /merges/{number}/undo', {
    role: 'member',
    summary: 'Undoes a merge of labels or components.',
    answer: async (context) => ({
      body: await undoMerge(context.database, context, Number(context.params.number)),
    }),
  }),
]
