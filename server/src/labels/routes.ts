import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeLabel, labels, makeLabel } from './service.ts'
import { recentLabels } from './recent.ts'
import { liftLabel, mergeLabels } from './merge.ts'

export const labelEndpoints: readonly Endpoint[] = [
  endpoint('GET /labels', {
    role: 'viewer',
    summary: 'The labels.',
    answer: (context) => ({ body: labels(context) }),
  }),
  endpoint('GET /labels/recent', {
    role: 'viewer',
    summary: 'The labels one gave last.',
    answer: async (context) => ({ body: await recentLabels(context.database, context) }),
  }),
  endpoint('POST /labels', {
    role: 'member',
    summary: 'Makes a label.',
    answer: async (context) => ({
      status: 201,
      body: await makeLabel(context.database, context, context.body),
    }),
  }),
  endpoint('POST /labels/merge', {
    role: 'member',
    summary: 'Makes several labels one.',
    answer: async (context) => {
      const { into, from } = context.body
      return { body: await mergeLabels(context.database, context, into, from) }
    },
  }),
  endpoint('PATCH /labels/{id}', {
    role: 'member',
    summary: 'Changes a label.',
    answer: async (context) => ({
      body: await changeLabel(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
  endpoint('POST /labels/{id}/lift', {
    role: 'administrator',
    summary: 'Lifts a project’s label into a shared family and merges its copies.',
    answer: async (context) => {
      const { family, copies = [] } = context.body
      return { body: await liftLabel(context.database, context, context.params.id, family, copies) }
    },
  }),
]
