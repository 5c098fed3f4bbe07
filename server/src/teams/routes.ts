import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeTeam, discardTeam, makeTeam, teams } from './service.ts'

export const teamEndpoints: readonly Endpoint[] = [
  endpoint('GET /teams', {
    role: 'viewer',
    summary: 'The teams, each with its remit.',
    answer: (context) => ({ body: teams(context) }),
  }),
  endpoint('POST /teams', {
    role: 'administrator',
    summary: 'Makes a team.',
    answer: async (context) => ({
      status: 201,
      body: await makeTeam(context.database, context, context.body),
    }),
  }),
  endpoint('PATCH /teams/{id}', {
    role: 'administrator',
    summary: 'Changes a team.',
    answer: async (context) => ({
      body: await changeTeam(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
  endpoint('DELETE /teams/{id}', {
    role: 'administrator',
    summary: 'Deletes a team that owns no iteration.',
    answer: async (context) => (
      await discardTeam(context.database, context, context.params.id, matchOf(context.request)),
      {}
    ),
  }),
]
