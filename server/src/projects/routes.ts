import { projectList } from './list.ts'
import { offersOf } from './offers.ts'
import { NewProject, ProjectChange } from '@bluestem/core/projects'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeProject, makeProject } from './service.ts'

export const projectEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'get',
    path: '/api/v1/projects',
    role: 'viewer',
    summary: 'The projects a person may see, with how much is in them.',
    answer: async (context) => ({ body: await projectList(context.database, context) }),
  }),
  endpoint({
    method: 'get',
    path: '/api/v1/projects/{code}/offers',
    role: 'viewer',
    summary: 'The types, flows and forms a project offers.',
    answer: async (context) => ({
      body: await offersOf(context.database, context, context.params.code),
    }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/projects',
    role: 'administrator',
    summary: 'Makes a project.',
    body: NewProject,
    answer: async (context) => ({
      status: 201,
      body: await makeProject(context.database, context, context.body),
    }),
  }),
  endpoint({
    method: 'patch',
    path: '/api/v1/projects/{id}',
    role: 'administrator',
    summary: 'Changes a project.',
    body: ProjectChange,
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
