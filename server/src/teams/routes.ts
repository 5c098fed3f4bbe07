import { NewTeam, TeamChange } from '@bluestem/core/teams'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeTeam, discardTeam, makeTeam, teams } from './service.ts'

export const teamEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'get',
    path: '/api/v1/teams',
    role: 'viewer',
    summary: 'The teams, each with its remit.',
    answer: (context) => ({ body: teams(context) }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/teams',
    role: 'administrator',
    summary: 'Makes a team.',
    body: NewTeam,
    answer: async (context) => ({
      status: 201,
      body: await makeTeam(context.database, context, context.body),
    }),
  }),
  endpoint({
    method: 'patch',
    path: '/api/v1/teams/{id}',
    role: 'administrator',
    summary: 'Changes a team.',
    body: TeamChange,
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
  endpoint({
    method: 'delete',
    path: '/api/v1/teams/{id}',
    role: 'administrator',
    summary: 'Deletes a team that owns no iteration.',
    answer: async (context) => (
      await discardTeam(context.database, context, context.params.id, matchOf(context.request)),
      {}
    ),
  }),
]
