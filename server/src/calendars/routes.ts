import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeCalendar, discardCalendar, makeCalendar } from './service.ts'

export const calendarEndpoints: readonly Endpoint[] = [
  endpoint('GET /calendars', {
    role: 'viewer',
    summary: 'The calendars.',
    answer: ({ world }) => ({ body: { calendars: world.calendars } }),
  }),
  endpoint('POST /calendars', {
    role: 'administrator',
    summary: 'Makes a calendar.',
    answer: async (context) => ({
      status: 201,
      body: await makeCalendar(context.database, context, context.body),
    }),
  }),
  endpoint('PATCH /calendars/{id}', {
    role: 'administrator',
    summary: 'Changes a calendar.',
    answer: async (context) => ({
      body: await changeCalendar(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
    }),
  }),
  endpoint('DELETE /calendars/{id}', {
    role: 'administrator',
    summary: 'Deletes a calendar that nobody works by.',
    answer: async (context) => (
      await discardCalendar(context.database, context, context.params.id, matchOf(context.request)),
      {}
    ),
  }),
]
