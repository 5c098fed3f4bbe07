import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { originOf } from '../http/origin.ts'
import { invite } from './invitation.ts'
import { changePassword } from './password.ts'
import { addPerson, changePerson, listPeople } from './service.ts'

/** Whether steps are left from nothing to a working tracker: the last of them is a dashboard. */
const isSettingUp = async (database: Sequelize, { whole }: World): Promise<boolean> =>
  whole.projects.length === 0 || (await modelsOf(database).dashboard.count()) === 0

export const peopleEndpoints: readonly Endpoint[] = [
  endpoint('GET /session', {
    role: 'viewer',
    summary: 'Who one is.',
    answer: async ({ database, world, person, now }) => ({
      body: {
        person: { id: person.id, name: person.name, email: person.email, role: person.role },
        workspace: {
          title: world.title,
          zone: world.zone,
          demo: world.demo,
          settingUp: await isSettingUp(database, world),
        },
        now: now.toISOString(),
      },
    }),
  }),
  endpoint('GET /people', {
    role: 'viewer',
    summary: 'Everybody.',
    answer: (context) => ({ body: listPeople(context) }),
  }),
  endpoint('POST /people', {
    role: 'administrator',
    summary: 'Adds a person, with a role and a first password.',
    answer: async (context) => ({
      status: 201,
      body: await addPerson(context.database, context, context.body),
    }),
  }),
  endpoint('PATCH /people/{id}', {
    role: 'administrator',
    summary: 'Changes a person: name, address, role, whether they may sign in, their password.',
    answer: async (context) => ({
      body: await changePerson(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
  endpoint('POST /people/{id}/invitation', {
    role: 'administrator',
    summary: 'Makes an address by which a person chooses a password and comes in.',
    answer: async ({ database, params, request, ...actor }) => ({
      status: 201,
      body: await invite(database, actor, params.id, originOf(request)),
    }),
  }),
  endpoint('POST /session/password', {
    role: 'viewer',
    summary: 'Changes one’s own password; every other session of one’s own ends.',
    answer: async (context) => (await changePassword(context.database, context, context.body), {}),
  }),
]
