import { Type } from 'typebox'
import type { Sequelize } from 'sequelize'
import { matchOf, type Ask, type Endpoint } from '../http/endpoint.ts'
import { rows } from '../database/connect.ts'
import { visibleProjects } from '../database/world.ts'
import { current, dropDraft, edition, editions, editDraft, drafts, impactOf, makeDraft, publish, readDraft, undoChange } from './service.ts'
import { lastUsed, movesMade, usageOf } from './usage.ts'

const title = Type.String({ minLength: 1, maxLength: 120 })
const Making = Type.Object({ title }, { additionalProperties: false, title: 'A new draft' })
const Editing = Type.Object({
  title: Type.Optional(title),
  edits: Type.Array(Type.Object({ path: Type.Array(Type.String({ pattern: '^(?!__proto__$|constructor$|prototype$)', maxLength: 200 }), { minItems: 2, maxItems: 8 }), after: Type.Optional(Type.Unknown()) }, { additionalProperties: false }), { maxItems: 200 }),
}, { additionalProperties: false, title: 'Edits of a draft' })
const Publishing = Type.Object({ note: Type.Optional(Type.String({ maxLength: 2000 })) }, { additionalProperties: false, title: 'Publishing' })

/** How much everything is used: items now, last use of fields, and queries that name each definition. */
async function usage(database: Sequelize, { world, person }: Ask): Promise<object> {
  const visible = visibleProjects(world, person)
  const queries = await rows<{ filter: unknown }>(database, `SELECT content->'filter' AS filter FROM query WHERE shared = 'everyone'`)
  const texts = queries.map((query) => JSON.stringify(query.filter))
  const asked = (name: string): number => texts.filter((text) => text.includes(`"${name}"`)).length
  const named = { ...world.document.types, ...world.document.statuses, ...world.document.priorities }
  return {
    ...await usageOf(database, world, visible), lastUsed: await lastUsed(database, world, visible),
    queries: Object.fromEntries([...Object.keys(named).map((id): [string, number] => [id, asked(id)]), ...Object.entries(world.document.fields).map(([id, field]): [string, number] => [id, asked(field.handle)])]),
  }
}

export const definitionEndpoints = (database: Sequelize): Endpoint[] => [
  { method: 'get', path: '/api/v1/definitions', who: 'viewer', says: 'The current document.', answer: async (ask) => ({ body: await current(database, ask.world) }) },
  { method: 'get', path: '/api/v1/definitions/usage', who: 'viewer', says: 'How much everything defined is used.', answer: async (ask) => ({ body: await usage(database, ask) }) },
  {
    method: 'get', path: '/api/v1/definitions/moves/{type}', who: 'viewer', says: 'How often each move of a type was made in the last days.',
    answer: async (ask) => ({ body: { moves: await movesMade(database, ask.world, visibleProjects(ask.world, ask.person), ask.params['type']!, new Date(ask.now.getTime() - Number(ask.query['days'] ?? 90) * 86_400_000)) } }),
  },
  { method: 'get', path: '/api/v1/definitions/editions', who: 'viewer', says: 'Every edition.', answer: async () => ({ body: await editions(database) }) },
  { method: 'get', path: '/api/v1/definitions/editions/{number}', who: 'viewer', says: 'One edition with its document.', answer: async (ask) => ({ body: await edition(database, Number(ask.params['number'])) }) },
  { method: 'get', path: '/api/v1/definitions/drafts', who: 'viewer', says: 'The open draft, if there is one.', answer: async (ask) => ({ body: await drafts(database, ask) }) },
  { method: 'post', path: '/api/v1/definitions/drafts', who: 'administrator', says: 'Opens a draft.', body: Making, answer: async (ask) => ({ status: 201, ...await makeDraft(database, ask, (ask.body as { title: string }).title) }) },
  { method: 'get', path: '/api/v1/definitions/drafts/{id}', who: 'viewer', says: 'A draft with its changes in words.', answer: async (ask) => await readDraft(database, ask, ask.params['id']!) },
  {
    method: 'patch', path: '/api/v1/definitions/drafts/{id}', who: 'administrator', says: 'Adds edits to a draft.', body: Editing,
    answer: async (ask) => {
      const { edits, title: named } = ask.body as { edits: { path: string[]; after?: unknown }[]; title?: string }
      return await editDraft(database, ask, ask.params['id']!, edits, named, matchOf(ask.request))
    },
  },
  { method: 'delete', path: '/api/v1/definitions/drafts/{id}', who: 'administrator', says: 'Drops a draft.', answer: async (ask) => (await dropDraft(database, ask, ask.params['id']!, matchOf(ask.request)), {}) },
  { method: 'delete', path: '/api/v1/definitions/drafts/{id}/changes/{change}', who: 'administrator', says: 'Undoes one change of a draft.', answer: async (ask) => await undoChange(database, ask, ask.params['id']!, ask.params['change']!, matchOf(ask.request)) },
  { method: 'get', path: '/api/v1/definitions/drafts/{id}/impact', who: 'viewer', says: 'What a draft touches.', answer: async (ask) => ({ body: await impactOf(database, ask, ask.params['id']!) }) },
  {
    method: 'post', path: '/api/v1/definitions/drafts/{id}/publish', who: 'administrator', says: 'Publishes a draft as the next edition.', body: Publishing,
    answer: async (ask) => ({ status: 201, body: await publish(database, ask, ask.params['id']!, (ask.body as { note?: string }).note ?? '', matchOf(ask.request)) }),
  },
]
