import { EditItem, MakeComment, MakeItem } from '@bluestem/core/work'
import { defaultPriority, flowOf, formOf, typesOf } from '@bluestem/core/definitions'
import { Type } from 'typebox'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { visibleProjects, type World } from '../database/world.ts'
import { templatesFor } from '../definitions/templates.ts'
import { keyOf, matchOf, type Ask, type Endpoint } from '../http/endpoint.ts'
import { notFound } from '../http/problem.ts'
import { answer, askingOf, readFilter, readKept, type Question } from '../queries/answers.ts'
import { history } from './history.ts'
import { comments, edit, make, readItem, remove, say } from './service.ts'

const ref = ({ params }: Ask): string => `${params['code']}/${params['number']}`

const Search = Type.Object(
  {
    filter: Type.Optional(Type.Unknown()),
    'filter-lang': Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
    kept: Type.Optional(Type.Boolean({ description: 'choices in the JSON are identities' })),
    sort: Type.Optional(Type.String({ maxLength: 4000 })),
    fields: Type.Optional(Type.String({ maxLength: 8000 })),
    limit: Type.Optional(Type.Integer()),
    offset: Type.Optional(Type.Integer()),
    cursor: Type.Optional(Type.String({ maxLength: 8000 })),
    'as-of': Type.Optional(Type.String({ maxLength: 40 })),
  },
  { additionalProperties: false, title: 'A question' },
)

async function answers(
  database: Sequelize,
  ask: Ask,
  question: Question & { kept?: boolean },
): Promise<object> {
  const { condition } = question.kept
    ? readKept(ask.world, question.filter ?? true)
    : readFilter(ask.world, question.filter, question['filter-lang'])
  return await answer(
    database,
    askingOf(ask.world, ask.person, ask.now, question['as-of']),
    condition,
    question,
  )
}

/** The type that was made most among the last items of a project; null where there are none yet. */
async function usualType(
  database: Sequelize,
  world: World,
  project: number,
): Promise<string | null> {
  const [most] = await rows<{ type_id: number }>(
    database,
    'SELECT type_id FROM (SELECT type_id FROM item WHERE project_id = $1 ORDER BY number DESC LIMIT 100) latest GROUP BY type_id ORDER BY count(*) DESC, type_id LIMIT 1',
    [project],
  )
  return most ? (world.numbers.identity('type', most.type_id) ?? null) : null
}

/** The types a project offers, each with its flow's start and its forms: what making an item needs. */
async function offers(database: Sequelize, ask: Ask): Promise<object> {
  const { world, person, params } = ask
  const project = world.projects.find((one) => one.code === params['code'])
  const rulebook = project && world.document.projects[project.id]
  if (!project || !rulebook || !visibleProjects(world, person).includes(project.number))
    throw notFound('project of this code')
  const handle = (field: string): string => world.document.fields[field]?.handle ?? field
  const form = (type: string, which: 'item' | 'make') =>
    formOf(world.document, rulebook, type, which).map((one) => ({
      ...one,
      handle: handle(one.field),
    }))
  return {
    id: project.id,
    code: project.code,
    title: project.title,
    description: project.description,
    rulebook: { id: rulebook, title: world.document.rulebooks[rulebook]!.title },
    templates: await templatesFor(database, ask, project),
    usual: await usualType(database, ask.world, project.number),
    priority: defaultPriority(world.document, rulebook),
    priorities: world.vocabulary
      .choices('priority')
      .filter((one) => !one.retired && world.vocabulary.rungOf(project.id, one.id) !== null)
      .map((one) => ({
        id: one.id,
        title: one.title,
        mark: world.vocabulary.rungOf(project.id, one.id),
      })),
    types: typesOf(world.document, rulebook)
      .filter((id) => !world.document.types[id]!.retired)
      .map((id) => {
        const { title, monogram, tier, description } = world.document.types[id]!
        const flow = flowOf(world.document, rulebook, id)
        return {
          id,
          title,
          mark: `${monogram}${tier}`,
          description,
          start: flow.start,
          statuses: flow.statuses.map((one) => ({
            id: one,
            title: world.document.statuses[one]!.title,
            mark: world.document.statuses[one]!.phase,
          })),
          moves: [...flow.moves],
          item: form(id, 'item'),
          make: form(id, 'make'),
        }
      }),
  }
}

export const workEndpoints = (database: Sequelize): Endpoint[] => [
  {
    method: 'get',
    path: '/api/v1/projects/{code}/offers',
    who: 'viewer',
    says: 'The types, flows and forms a project offers.',
    answer: async (ask) => ({ body: await offers(database, ask) }),
  },
  {
    method: 'get',
    path: '/api/v1/items',
    who: 'viewer',
    says: 'The answers of a filter.',
    answer: async (ask) => ({ body: await answers(database, ask, ask.query) }),
  },
  {
    method: 'post',
    path: '/api/v1/items/search',
    who: 'viewer',
    says: 'The answers of a filter of any length.',
    body: Search,
    answer: async (ask) => ({ body: await answers(database, ask, ask.body) }),
  },
  {
    method: 'post',
    path: '/api/v1/items',
    who: 'member',
    says: 'Makes an item.',
    body: MakeItem,
    answer: async (ask) => {
      const made = await make(database, ask, ask.body, keyOf(ask.request))
      const { body, etag } = await readItem(database, ask, made.ref)
      return {
        status: made.made ? 201 : 200,
        body,
        etag,
        headers: { Location: `/api/v1/items/${made.ref}` },
      }
    },
  },
  {
    method: 'get',
    path: '/api/v1/items/{code}/{number}',
    who: 'viewer',
    says: 'One item.',
    answer: async (ask) => await readItem(database, ask, ref(ask)),
  },
  {
    method: 'patch',
    path: '/api/v1/items/{code}/{number}',
    who: 'member',
    says: 'Changes an item.',
    body: EditItem,
    answer: async (ask) => {
      await edit(database, ask, ref(ask), ask.body, matchOf(ask.request))
      return await readItem(database, ask, ref(ask))
    },
  },
  {
    method: 'delete',
    path: '/api/v1/items/{code}/{number}',
    who: 'member',
    says: 'Deletes an item; its history stays.',
    answer: async (ask) => (await remove(database, ask, ref(ask), matchOf(ask.request)), {}),
  },
  {
    method: 'get',
    path: '/api/v1/items/{code}/{number}/history',
    who: 'viewer',
    says: 'Everything that happened to an item.',
    answer: async (ask) => ({ body: await history(database, ask, ref(ask)) }),
  },
  {
    method: 'get',
    path: '/api/v1/items/{code}/{number}/comments',
    who: 'viewer',
    says: 'What was said about an item.',
    answer: async (ask) => ({ body: await comments(database, ask, ref(ask)) }),
  },
  {
    method: 'post',
    path: '/api/v1/items/{code}/{number}/comments',
    who: 'member',
    says: 'Says something about an item.',
    body: MakeComment,
    answer: async (ask) => {
      await say(database, ask, ref(ask), (ask.body as MakeComment).body)
      return { status: 201, body: await comments(database, ask, ref(ask)) }
    },
  },
]
