import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { readTree } from './service.ts'

export const treeEndpoints: readonly Endpoint[] = [
  endpoint('GET /projects/{code}/tree', {
    role: 'viewer',
    summary: 'The tree of a project, with what is done below each item.',
    answer: async (context) => ({
      body: await readTree(context.database, context, context.params.code, context.query),
    }),
  }),
]
