import { auditList } from './service.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'

export const auditEndpoints: readonly Endpoint[] = [
  endpoint('GET /audit', {
    role: 'administrator',
    summary: 'Who changed which definition, share or role.',
    answer: async (context) => ({ body: await auditList(context.database, context) }),
  }),
]
