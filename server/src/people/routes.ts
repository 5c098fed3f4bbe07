import { Type } from 'typebox'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { visibleProjects } from '../database/world.ts'
import type { Endpoint } from '../http/endpoint.ts'

export const SignIn = Type.Object(
  { email: Type.String({ maxLength: 300 }), password: Type.String({ maxLength: 1000 }) },
  { additionalProperties: false, title: 'Sign-in' },
)

export const peopleEndpoints = (database: Sequelize): Endpoint[] => [
  {
    method: 'get',
    path: '/api/v1/session',
    who: 'viewer',
    says: 'Who one is.',
    answer: async ({ world, person, now }) => ({
      body: {
        person: { id: person.id, name: person.name, email: person.email, role: person.role },
        workspace: { title: world.title, zone: world.zone, demo: world.demo },
        now: now.toISOString(),
      },
    }),
  },
  {
    method: 'get',
    path: '/api/v1/people',
    who: 'viewer',
    says: 'Everybody.',
    answer: async ({ world }) => ({
      body: { people: world.people.map(({ id, name, role }) => ({ id, name, role })) },
    }),
  },
  {
    method: 'get',
    path: '/api/v1/projects',
    who: 'viewer',
    says: 'The projects a person may see, with how much is in them.',
    answer: async ({ world, person }) => {
      const visible = visibleProjects(world, person)
      const counts = await rows<{ project_id: number; phase: number; count: number }>(
        database,
        'SELECT project_id, phase, count(*) AS count FROM item WHERE NOT deleted AND project_id = ANY($1::int[]) GROUP BY 1, 2',
        [visible],
      )
      const projects = world.projects
        .filter((project) => visible.includes(project.number))
        .map(({ id, number, code, title, description, open, calendar, keepers, version }) => ({
          id,
          code,
          title,
          description,
          open,
          calendar,
          version,
          keepers: world.people.filter((one) => keepers.has(one.number)).map((one) => one.id),
          rulebook: world.document.rulebooks[world.document.projects[id] ?? '']?.title ?? null,
          phases: [0, 1, 2, 3].map(
            (phase) =>
              counts.find((one) => one.project_id === number && one.phase === phase)?.count ?? 0,
          ),
        }))
      return { body: { projects } }
    },
  },
]
