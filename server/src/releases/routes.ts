import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { finishRelease, readReleasePlan } from './plan.ts'
import {
  changeRelease,
  discardRelease,
  makeRelease,
  makeReleaseSeries,
  releases,
  startRelease,
} from './service.ts'

export const releaseEndpoints: readonly Endpoint[] = [
  endpoint('GET /releases', {
    role: 'viewer',
    summary: 'The releases, the latest first.',
    answer: async (context) => ({ body: await releases(context.database, context) }),
  }),
  endpoint('POST /releases', {
    role: 'member',
    summary: 'Makes a release of one project or several.',
    answer: async (context) => ({
      status: 201,
      body: await makeRelease(context.database, context, context.body),
    }),
  }),
  endpoint('POST /releases/series', {
    role: 'member',
    summary: 'Makes releases that follow each other.',
    answer: async (context) => ({
      status: 201,
      body: await makeReleaseSeries(context.database, context, context.body),
    }),
  }),
  endpoint('PATCH /releases/{id}', {
    role: 'member',
    summary: 'Changes a release.',
    answer: async (context) => ({
      body: await changeRelease(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
  endpoint('DELETE /releases/{id}', {
    role: 'member',
    summary: 'Deletes a release that no item ever was in.',
    answer: async (context) => (
      await discardRelease(context.database, context, context.params.id, matchOf(context.request)),
      {}
    ),
  }),
  endpoint('GET /releases/{id}/plan', {
    role: 'viewer',
    summary: 'What a release has, what was meant by it, and where what is open can go.',
    answer: async (context) => ({
      body: await readReleasePlan(context.database, context, context.params.id),
    }),
  }),
  endpoint('POST /releases/{id}/start', {
    role: 'member',
    summary: 'Starts a release; what is in it is what was committed.',
    answer: async (context) => ({
      body: await startRelease(context.database, context, context.params.id),
    }),
  }),
  endpoint('POST /releases/{id}/finish', {
    role: 'member',
    summary: 'Finishes a release; what is open goes where it is said.',
    answer: async (context) => ({
      body: await finishRelease(context.database, context, context.params.id, context.body),
    }),
  }),
]
