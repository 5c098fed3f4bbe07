import { projectList } from './list.ts'
import { offersOf } from './offers.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeProject, makeProject } from './service.ts'

export const projectEndpoints: readonly Endpoint[] = [
  endpoint('GET /projects', {
    role: 'viewer',
    summary: 'The projects a person may see, with how much is in them.',
    answer: async (context) => ({ body: await projectList(context.database, context) }),
  }),
  endpoint('GET /projects/{code}/offers', {
    role: 'viewer',
    summary: 'The types, flows and forms a project offers.',
    answer: async (context) => ({
      body: await offersOf(context.database, context, context.params.code),
    }),
  }),
  endpoint('POST /projects', {
    role: 'administrator',
    summary: 'Makes a project.',
    answer: async (context) => ({
      status: 201,
      body: await makeProject(context.database, context, context.body),
    }),
  }),
  endpoint('PATCH /projects/{id}', {
    role: 'administrator',
    summary: 'Changes a project.',
    answer: async (context) => ({
      body: await changeProject(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
]
