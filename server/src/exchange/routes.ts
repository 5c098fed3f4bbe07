import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { originOf } from '../http/origin.ts'
import { csvOf, exportAnswers } from './export.ts'
import { endSubscription, subscribe, subscriptions } from './subscriptions.ts'
import { beginImport, checkImport, forgetImport, readImport, restOf, takeFile } from './import.ts'

export const exchangeEndpoints: readonly Endpoint[] = [
  endpoint('GET /subscriptions', {
    role: 'viewer',
    summary: 'The addresses one made for programs that read answers again and again.',
    answer: async (context) => ({ body: await subscriptions(context.database, context) }),
  }),
  endpoint('POST /subscriptions', {
    role: 'viewer',
    summary: 'Makes an address under which a program reads answers as a calendar or a feed.',
    answer: async (context) => {
      const { database, body, request } = context
      return { status: 201, body: await subscribe(database, context, body, originOf(request)) }
    },
  }),
  endpoint('DELETE /subscriptions/{id}', {
    role: 'viewer',
    summary: 'Ends an address, so that nobody reads it any more.',
    answer: async (context) => (
      await endSubscription(context.database, context, context.params.id),
      {}
    ),
  }),
  endpoint('POST /items/export', {
    role: 'viewer',
    timeout: 60_000,
    summary:
      'All answers of a question as a file: CSV (RFC 4180), JSON, iCalendar (RFC 5545) or Atom (RFC 4287).',
    answer: async (context) => {
      const { database, body, request } = context
      const { text, type, name } = await exportAnswers(database, context, body, originOf(request))
      return {
        body: text,
        headers: { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${name}"` },
      }
    },
  }),
  endpoint('POST /imports', {
    role: 'member',
    timeout: 60_000,
    summary: 'Takes a file in and says what its columns are taken for; nothing is made of it yet.',
    answer: async (context) => ({
      status: 201,
      body: await takeFile(context.database, context, context.body),
    }),
  }),
  endpoint('GET /imports/{id}', {
    role: 'member',
    summary: 'A file that is brought in, and how far it is.',
    answer: async (context) => ({
      body: await readImport(context.database, context, context.params.id),
    }),
  }),
  endpoint('POST /imports/{id}/check', {
    role: 'member',
    timeout: 120_000,
    summary: 'What the rows of a file would do, and everything that is wrong with them.',
    answer: async (context) => ({
      body: await checkImport(context.database, context, context.params.id, context.body),
    }),
  }),
  endpoint('POST /imports/{id}/carry-out', {
    role: 'member',
    summary: 'Brings a file in that was checked: all of it or nothing, or the good rows alone.',
    answer: async (context) => ({
      status: 202,
      body: await beginImport(context.database, context, context.params.id, context.body.goodOnly),
    }),
  }),
  endpoint('GET /imports/{id}/rest', {
    role: 'member',
    summary: 'The rows that did not come in, as a file with what is wrong with each.',
    answer: async (context) => {
      const { rows, name } = await restOf(context.database, context, context.params.id)
      return {
        body: csvOf(rows),
        headers: {
          'Content-Type': 'text/csv; charset=utf-8',
          'Content-Disposition': `attachment; filename="${name}"`,
        },
      }
    },
  }),
  endpoint('DELETE /imports/{id}', {
    role: 'member',
    summary: 'Forgets a file; what came in from it stays.',
    answer: async (context) => (
      await forgetImport(context.database, context, context.params.id),
      {}
    ),
  }),
]
