import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { rulebooksKeptBy } from '../workspace/rights.ts'
import { makeDraft } from './drafts.ts'
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

export const editionEndpoints: readonly Endpoint[] = [
  endpoint('GET /definitions', {
    role: 'viewer',
    summary: 'The current document.',
    answer: async (context) => ({
      body: {
        ...(await current(context.database, context.world)),
        keeps: rulebooksKeptBy(context.world, context.person),
      },
    }),
  }),
  endpoint('GET /definitions/file', {
    role: 'viewer',
    summary: 'All definitions as a file.',
    answer: ({ world }) => ({ body: world.document }),
  }),
  endpoint('GET /definitions/editions', {
    role: 'viewer',
    summary: 'Every edition.',
    answer: async ({ database, world }) => ({ body: await editions(database, world) }),
  }),
  endpoint('GET /definitions/editions/{number}', {
    role: 'viewer',
    summary: 'One edition with its document.',
    answer: async (context) => ({
      body: await edition(context.database, context.world, Number(context.params.number)),
    }),
  }),
  endpoint('GET /definitions/editions/{number}/compare/{to}', {
    role: 'viewer',
    summary: 'What is different from one edition to another, in words.',
    answer: async (context) => ({
      body: await compareEditions(
        context.database,
        context,
        Number(context.params.number),
        Number(context.params.to),
      ),
    }),
  }),
  endpoint('POST /definitions/editions/{number}/draft', {
    role: 'member',
    summary: 'Opens a draft that goes back to an edition.',
    answer: async (context) => ({
      status: 201,
      ...(await makeDraft(context.database, context, {
        title: `Back to edition ${context.params.number}`,
        edits: leadingTo(
          context.world,
          await documentOf(context.database, Number(context.params.number)),
        ),
      })),
    }),
  }),
  endpoint('GET /definitions/rulebooks/{id}', {
    role: 'viewer',
    summary: 'One rulebook as a file, with everything it names.',
    answer: (context) => ({ body: rulebookFile(context.world, context.params.id) }),
  }),
  endpoint('POST /definitions/differences', {
    role: 'viewer',
    summary: 'What a file would change; nothing is kept.',
    answer: (context) => ({ body: differencesOf(context.world, context.body) }),
  }),
  endpoint('POST /definitions/import', {
    role: 'member',
    summary: 'Opens a draft with what a file changes.',
    answer: async (context) => {
      const changes = leadingTo(context.world, documentInFile(context.world, context.body))
      if (changes.length === 0) return { body: { draft: null, changes: 0 } }
      const { body, etag } = await makeDraft(context.database, context, {
        title: 'From a file',
        edits: changes,
      })
      return { status: 201, body: { draft: body, changes: changes.length }, etag }
    },
  }),
]
