import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeComponent, components, makeComponent } from './service.ts'
import { mergeComponents } from './merge.ts'

export const componentEndpoints: readonly Endpoint[] = [
  endpoint('GET /components', {
    role: 'viewer',
    summary: 'The components of the projects one sees.',
    answer: (context) => ({ body: components(context) }),
  }),
  endpoint('POST /components', {
    role: 'member',
    summary: 'Makes a component.',
    answer: async (context) => {
      const { project, ...given } = context.body
      return { status: 201, body: await makeComponent(context.database, context, project, given) }
    },
  }),
  endpoint('POST /components/merge', {
    role: 'member',
    summary: 'Makes several components one.',
    answer: async (context) => {
      const { into, from } = context.body
      return { body: await mergeComponents(context.database, context, into, from) }
    },
  }),
  endpoint('PATCH /components/{id}', {
    role: 'member',
    summary: 'Changes a component.',
    answer: async (context) => ({
      body: await changeComponent(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
]
