import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { dropJot, fileJots, jotsOf, keepJots, renameJot } from './service.ts'

export const jotEndpoints: readonly Endpoint[] = [
  endpoint('GET /jots', {
    role: 'member',
    summary: 'What one jotted and did not file yet.',
    answer: async (context) => ({ body: await jotsOf(context.database, context) }),
  }),
  endpoint('POST /jots', {
    role: 'member',
    summary: 'Jots titles down, one a line.',
    answer: async (context) => ({
      status: 201,
      body: await keepJots(context.database, context, context.body.text),
    }),
  }),
  endpoint('PATCH /jots/{id}', {
    role: 'member',
    summary: 'Changes the title of a jot.',
    answer: async (context) => ({
      body: await renameJot(context.database, context, context.params.id, context.body.title),
    }),
  }),
  endpoint('DELETE /jots/{id}', {
    role: 'member',
    summary: 'Drops a jot; what stands below it stays.',
    answer: async (context) => (await dropJot(context.database, context, context.params.id), {}),
  }),
  endpoint('POST /jots/file', {
    role: 'member',
    summary: 'Files jots as items of a project, all or none.',
    answer: async (context) => ({
      body: { refs: await fileJots(context.database, context, context.body) },
    }),
  }),
]
