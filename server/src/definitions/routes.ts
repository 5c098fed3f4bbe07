import { Type } from 'typebox'
import type { Edit, MappingChoices } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { matchOf, type Ask, type Endpoint } from '../http/endpoint.ts'
import { invalid } from '../http/problem.ts'
import { auditList } from './audit.ts'
import { statusBoards, unplacedStatuses, type Placing } from './boards.ts'
import {
  countedProjects,
  dropDraft,
  drafts,
  editDraft,
  impactOf,
  makeDraft,
  propose,
  readDraft,
  rebaseDraft,
  undoChange,
  type DraftEditing,
} from './drafts.ts'
import {
  compareEditions,
  current,
  differencesOf,
  documentInFile,
  documentOf,
  edition,
  editions,
  leadingTo,
  rulebookFile,
} from './editions.ts'
import { keepersOf, setKeepers } from './keepers.ts'
import { usageCounted } from './lately.ts'
import { publish, publishLater } from './publish.ts'
import { replayDraft } from './replay.ts'
import { keptRulebooks } from './rights.ts'
import { previewScore, type ScoreGiven } from './scores.ts'
import { lastChanged, movesMade } from './usage.ts'

const title = Type.String({ minLength: 1, maxLength: 120 })
const EditOf = Type.Object(
  {
    path: Type.Array(
      Type.String({ pattern: '^(?!__proto__$|constructor$|prototype$)', maxLength: 200 }),
      { minItems: 2, maxItems: 8 },
    ),
    after: Type.Optional(Type.Unknown()),
    before: Type.Optional(
      Type.Unknown({
        description:
          'what stood there when one looked, null for nothing; the edit is refused where something else stands there by now',
      }),
    ),
  },
  { additionalProperties: false },
)
const edits = Type.Array(EditOf, { maxItems: 2000 })
const Making = Type.Object(
  { title, edits: Type.Optional(edits) },
  { additionalProperties: false, title: 'A new draft' },
)
const Proposing = Type.Object(
  { title, edits: Type.Array(EditOf, { minItems: 1, maxItems: 20 }) },
  { additionalProperties: false, title: 'A proposal' },
)
const Editing = Type.Object(
  {
    title: Type.Optional(title),
    edits: Type.Optional(edits),
    choices: Type.Optional(Type.Record(Type.String(), Type.Union([Type.String(), Type.Null()]))),
    boards: Type.Optional(
      Type.Array(
        Type.Object(
          { view: Type.String(), status: Type.String() },
          { additionalProperties: false },
        ),
        { maxItems: 500 },
      ),
    ),
    publishAt: Type.Optional(Type.Null()),
  },
  { additionalProperties: false, title: 'Edits of a draft' },
)
const Deciding = Type.Object(
  { choices: Type.Record(Type.String(), Type.Enum(['mine', 'theirs'])) },
  { additionalProperties: false, title: 'What clashes become' },
)
const Publishing = Type.Object(
  {
    note: Type.Optional(Type.String({ maxLength: 2000 })),
    at: Type.Optional(Type.String({ maxLength: 40 })),
  },
  { additionalProperties: false, title: 'Publishing' },
)
const Keepers = Type.Object(
  {
    keepers: Type.Array(Type.String({ pattern: '^pe_[a-z0-9_]{1,40}$' }), {
      maxItems: 100,
      uniqueItems: true,
    }),
  },
  { additionalProperties: false, title: 'Keepers of a rulebook' },
)

const Score = Type.Object(
  {
    formula: Type.String({ minLength: 1, maxLength: 1000 }),
    empty: Type.Optional(Type.Union([Type.Number(), Type.Null()])),
  },
  { additionalProperties: false, title: 'A score to look at' },
)

const draft = '/api/v1/definitions/drafts/{id}'
const idOf = (ask: Ask): string => ask.params['id']!

/** A span in days, from a query parameter. */
function daysOf({ query }: Ask, standard: number): number {
  const days = Number(query['days'] ?? standard)
  if (!Number.isInteger(days) || days < 1 || days > 3660)
    throw invalid([
      {
        pointer: '/days',
        message: 'A span is a whole number of days.',
        expected: '1 to 3660',
        found: query['days'] ?? '',
      },
    ])
  return days
}

export const definitionEndpoints = (
  database: Sequelize,
  mapAtOnce: number | undefined,
): Endpoint[] => [
  {
    method: 'get',
    path: '/api/v1/definitions',
    who: 'viewer',
    says: 'The current document.',
    answer: async (ask) => ({
      body: {
        ...(await current(database, ask.world)),
        keeps: keptRulebooks(ask.world, ask.person),
      },
    }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/usage',
    who: 'viewer',
    says: 'How much everything defined is used, when it was last, and which edition changed it last.',
    answer: async (ask) => {
      const { value, at } = await usageCounted(database, ask.world, countedProjects(ask), {
        optionsOf: ask.query['options'] ? [ask.query['options']] : [],
      })
      return {
        body: {
          ...value,
          countedAgo: Math.round((Date.now() - at.getTime()) / 1000),
          changed: await lastChanged(database),
        },
      }
    },
  },
  {
    method: 'get',
    path: '/api/v1/definitions/moves/{type}',
    who: 'viewer',
    says: 'How often each move of a type was made in the last days.',
    answer: async (ask) => ({
      body: {
        moves: await movesMade(
          database,
          ask.world,
          countedProjects(ask),
          ask.params['type']!,
          new Date(ask.now.getTime() - daysOf(ask, 90) * 86_400_000),
        ),
      },
    }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/boards',
    who: 'viewer',
    says: 'The boards whose columns are statuses, and the statuses no shared board shows.',
    answer: async (ask) => ({
      body: {
        boards: await statusBoards(database, ask),
        unplaced: await unplacedStatuses(database, ask),
      },
    }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/file',
    who: 'viewer',
    says: 'All definitions as a file.',
    answer: async ({ world }) => ({ body: world.document }),
  },
  {
    method: 'post',
    path: '/api/v1/definitions/scores/preview',
    who: 'viewer',
    says: 'The order a score would give to open work.',
    body: Score,
    answer: async (ask) => ({ body: await previewScore(database, ask, ask.body as ScoreGiven) }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/editions',
    who: 'viewer',
    says: 'Every edition.',
    answer: async ({ world }) => ({ body: await editions(database, world) }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/editions/{number}',
    who: 'viewer',
    says: 'One edition with its document.',
    answer: async (ask) => ({
      body: await edition(database, ask.world, Number(ask.params['number'])),
    }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/editions/{number}/compare/{to}',
    who: 'viewer',
    says: 'What is different from one edition to another, in words.',
    answer: async (ask) => ({
      body: await compareEditions(
        database,
        ask,
        Number(ask.params['number']),
        Number(ask.params['to']),
      ),
    }),
  },
  {
    method: 'post',
    path: '/api/v1/definitions/editions/{number}/draft',
    who: 'member',
    says: 'Opens a draft that goes back to an edition.',
    answer: async (ask) => ({
      status: 201,
      ...(await makeDraft(
        database,
        ask,
        `Back to edition ${ask.params['number']}`,
        leadingTo(ask.world, await documentOf(database, Number(ask.params['number']))),
      )),
    }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/rulebooks/{id}',
    who: 'viewer',
    says: 'One rulebook as a file, with everything it names.',
    answer: async (ask) => ({ body: rulebookFile(ask.world, idOf(ask)) }),
  },
  {
    method: 'get',
    path: '/api/v1/definitions/rulebooks/{id}/keepers',
    who: 'viewer',
    says: 'Who keeps a rulebook.',
    answer: async (ask) => await keepersOf(database, ask, idOf(ask)),
  },
  {
    method: 'patch',
    path: '/api/v1/definitions/rulebooks/{id}/keepers',
    who: 'administrator',
    says: 'Sets who keeps a rulebook.',
    body: Keepers,
    answer: async (ask) =>
      await setKeepers(
        database,
        ask,
        idOf(ask),
        (ask.body as { keepers: string[] }).keepers,
        matchOf(ask.request),
      ),
  },
  {
    method: 'post',
    path: '/api/v1/definitions/differences',
    who: 'viewer',
    says: 'What a file would change; nothing is kept.',
    answer: async (ask) => ({ body: differencesOf(ask.world, ask.body) }),
  },
  {
    method: 'post',
    path: '/api/v1/definitions/import',
    who: 'member',
    says: 'Opens a draft with what a file changes.',
    answer: async (ask) => {
      const changes = leadingTo(ask.world, documentInFile(ask.world, ask.body))
      if (changes.length === 0) return { body: { draft: null, changes: 0 } }
      const { body, etag } = await makeDraft(database, ask, 'From a file', changes)
      return { status: 201, body: { draft: body, changes: changes.length }, etag }
    },
  },
  {
    method: 'get',
    path: '/api/v1/definitions/drafts',
    who: 'viewer',
    says: 'The open drafts.',
    answer: async (ask) => ({ body: await drafts(database, ask) }),
  },
  {
    method: 'post',
    path: '/api/v1/definitions/drafts',
    who: 'member',
    says: 'Opens a draft.',
    body: Making,
    answer: async (ask) => {
      const { title: named, edits: first } = ask.body as { title: string; edits?: Edit[] }
      return { status: 201, ...(await makeDraft(database, ask, named, first)) }
    },
  },
  {
    method: 'post',
    path: '/api/v1/definitions/proposals',
    who: 'member',
    says: 'Proposes a change, which waits in a draft for those who may publish it.',
    body: Proposing,
    answer: async (ask) => {
      const { title: named, edits: wished } = ask.body as { title: string; edits: Edit[] }
      return { status: 201, ...(await propose(database, ask, named, wished)) }
    },
  },
  {
    method: 'get',
    path: draft,
    who: 'viewer',
    says: 'A draft with its changes in words.',
    answer: async (ask) => await readDraft(database, ask, idOf(ask)),
  },
  {
    method: 'patch',
    path: draft,
    who: 'member',
    says: 'Adds edits to a draft, answers what it must ask, and places statuses on boards.',
    body: Editing,
    answer: async (ask) =>
      await editDraft(
        database,
        ask,
        idOf(ask),
        ask.body as DraftEditing & { choices?: MappingChoices; boards?: Placing[] },
        matchOf(ask.request),
      ),
  },
  {
    method: 'delete',
    path: draft,
    who: 'member',
    says: 'Drops a draft.',
    answer: async (ask) => (await dropDraft(database, ask, idOf(ask), matchOf(ask.request)), {}),
  },
  {
    method: 'post',
    path: `${draft}/rebase`,
    who: 'member',
    says: 'Puts a draft on the current edition, with what clashes decided.',
    body: Deciding,
    answer: async (ask) =>
      await rebaseDraft(
        database,
        ask,
        idOf(ask),
        (ask.body as { choices: Record<string, 'mine' | 'theirs'> }).choices,
        matchOf(ask.request),
      ),
  },
  {
    method: 'delete',
    path: `${draft}/changes/{change}`,
    who: 'member',
    says: 'Undoes one change of a draft.',
    answer: async (ask) =>
      await undoChange(database, ask, idOf(ask), ask.params['change']!, matchOf(ask.request)),
  },
  {
    method: 'get',
    path: `${draft}/impact`,
    who: 'viewer',
    says: 'What a draft touches, and what it must ask.',
    answer: async (ask) => ({ body: await impactOf(database, ask, idOf(ask)) }),
  },
  {
    method: 'get',
    path: `${draft}/replay`,
    who: 'viewer',
    says: 'What a draft would have done to the moves of the last days.',
    answer: async (ask) => ({
      body: await replayDraft(database, ask, idOf(ask), daysOf(ask, 365)),
    }),
  },
  {
    method: 'post',
    path: `${draft}/publish`,
    who: 'member',
    most: 90_000,
    says: 'Publishes a draft as the next edition, now or at a set time.',
    body: Publishing,
    answer: async (ask) => {
      const { note = '', at } = ask.body as { note?: string; at?: string }
      const publishing = {
        note,
        match: matchOf(ask.request),
        ...(mapAtOnce === undefined ? {} : { most: mapAtOnce }),
      }
      if (at === undefined)
        return { status: 201, body: await publish(database, ask, idOf(ask), publishing) }
      await publishLater(database, ask, idOf(ask), publishing, at)
      return { status: 202, ...(await readDraft(database, ask, idOf(ask))) }
    },
  },
  {
    method: 'get',
    path: '/api/v1/audit',
    who: 'administrator',
    says: 'Who changed which definition, share or role.',
    answer: async (ask) => ({ body: await auditList(database, ask) }),
  },
]
