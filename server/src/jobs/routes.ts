import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { listJobs } from './list.ts'
import { cancelJob, tryAgain } from './service.ts'

export const jobEndpoints: readonly Endpoint[] = [
  endpoint('GET /jobs', {
    role: 'administrator',
    summary:
      'What Bluestem does by itself: at work, waiting, failed, and over in the last 30 days.',
    answer: async (context) => ({ body: { jobs: await listJobs(context.database, context) } }),
  }),
  endpoint('POST /jobs/{key}/try', {
    role: 'administrator',
    summary: 'Tries a job again now that failed.',
    answer: async (context) => (await tryAgain(context.database, context, context.params.key), {}),
  }),
  endpoint('DELETE /jobs/{key}', {
    role: 'administrator',
    summary: 'Cancels a job that has not begun and may be left.',
    answer: async (context) => (await cancelJob(context.database, context, context.params.key), {}),
  }),
]
