import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { exportAnswers } from './export.ts'

export const exchangeEndpoints: readonly Endpoint[] = [
  endpoint('POST /items/export', {
    role: 'viewer',
    timeout: 60_000,
    summary: 'All answers of a question as a file, CSV (RFC 4180) or JSON.',
    answer: async (context) => {
      const { text, type, name } = await exportAnswers(context.database, context, context.body)
      return {
        body: text,
        headers: { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${name}"` },
      }
    },
  }),
]
