import { LabelChange, LabelLift, LabelMerge, NewLabel } from '@bluestem/core/labels'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeLabel, labels, makeLabel } from './service.ts'
import { recentLabels } from './recent.ts'
import { liftLabel, mergeLabels } from './merge.ts'

export const labelEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'get',
    path: '/api/v1/labels',
    role: 'viewer',
    summary: 'The labels.',
    answer: (context) => ({ body: labels(context) }),
  }),
  endpoint({
    method: 'get',
    path: '/api/v1/labels/recent',
    role: 'viewer',
    summary: 'The labels one gave last.',
    answer: async (context) => ({ body: await recentLabels(context.database, context) }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/labels',
    role: 'member',
    summary: 'Makes a label.',
    body: NewLabel,
    answer: async (context) => ({
      status: 201,
      body: await makeLabel(context.database, context, context.body),
    }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/labels/merge',
    role: 'member',
    summary: 'Makes several labels one.',
    body: LabelMerge,
    answer: async (context) => {
      const { into, from } = context.body
      return { body: await mergeLabels(context.database, context, into, from) }
    },
  }),
  endpoint({
    method: 'patch',
    path: '/api/v1/labels/{id}',
    role: 'member',
    summary: 'Changes a label.',
    body: LabelChange,
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
  endpoint({
    method: 'post',
    path: '/api/v1/labels/{id}/lift',
    role: 'administrator',
    summary: 'Lifts a project’s label into a shared family and merges its copies.',
    body: LabelLift,
    answer: async (context) => {
      const { family, copies = [] } = context.body
      return { body: await liftLabel(context.database, context, context.params.id, family, copies) }
    },
  }),
]
