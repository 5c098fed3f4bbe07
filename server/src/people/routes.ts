import { Type } from 'typebox'
import { endpoint, type Endpoint } from '../http/endpoint.ts'

export const SignIn = Type.Object(
  { email: Type.String({ maxLength: 300 }), password: Type.String({ maxLength: 1000 }) },
  { additionalProperties: false, title: 'Sign-in' },
)

export const peopleEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'get',
    path: '/api/v1/session',
    role: 'viewer',
    summary: 'Who one is.',
    answer: ({ world, person, now }) => ({
      body: {
        person: { id: person.id, name: person.name, email: person.email, role: person.role },
        workspace: { title: world.title, zone: world.zone, demo: world.demo },
        now: now.toISOString(),
      },
    }),
  }),
  endpoint({
    method: 'get',
    path: '/api/v1/people',
    role: 'viewer',
    summary: 'Everybody.',
    answer: ({ world }) => ({
      body: { people: world.people.map(({ id, name, role }) => ({ id, name, role })) },
    }),
  }),
]
