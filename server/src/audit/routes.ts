import { auditList } from './service.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'

export const auditEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'get',
    path: '/api/v1/audit',
    role: 'administrator',
    summary: 'Who changed which definition, share or role.',
    answer: async (context) => ({ body: await auditList(context.database, context) }),
  }),
]
