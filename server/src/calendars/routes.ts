import { CalendarContent } from '@bluestem/core/calendar'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeCalendar, discardCalendar, makeCalendar } from './service.ts'

export const calendarEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'get',
    path: '/api/v1/calendars',
    role: 'viewer',
    summary: 'The calendars.',
    answer: ({ world }) => ({ body: { calendars: world.calendars } }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/calendars',
    role: 'administrator',
    summary: 'Makes a calendar.',
    body: CalendarContent,
    answer: async (context) => ({
      status: 201,
      body: await makeCalendar(context.database, context, context.body),
    }),
  }),
  endpoint({
    method: 'patch',
    path: '/api/v1/calendars/{id}',
    role: 'administrator',
    summary: 'Changes a calendar.',
    body: CalendarContent,
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
  endpoint({
    method: 'delete',
    path: '/api/v1/calendars/{id}',
    role: 'administrator',
    summary: 'Deletes a calendar that nobody works by.',
    answer: async (context) => (
      await discardCalendar(context.database, context, context.params.id, matchOf(context.request)),
      {}
    ),
  }),
]
