import { type Static, Type } from 'typebox'
import { type Immutable, answer, type Contracts, text } from '../schema/index.ts'

import type { Calendar } from './working.ts'

const time = Type.String({ pattern: '^(?:[01]\\d|2[0-3]):[0-5]\\d$|^24:00$' })

const day = Type.String({ pattern: '^\\d{4}-\\d{2}-\\d{2}$' })

/** From a time of day to a later one. */
const window = Type.Unsafe<readonly [from: string, to: string]>(
  Type.Array(time, { minItems: 2, maxItems: 2, description: 'from and to' }),
)

export const CalendarContent = Type.Object(
  {
    title: text(80),
    hours: Type.Record(Type.String({ pattern: '^[1-7]$' }), Type.Array(window, { maxItems: 6 }), {
      additionalProperties: false,
    }),
    daysOff: Type.Array(
      Type.Object(
        {
          day,
          until: Type.Optional(day),
          yearly: Type.Optional(Type.Literal(true)),
          title: text(80, 0),
        },
        { additionalProperties: false },
      ),
      { maxItems: 2000 },
    ),
  },
  { additionalProperties: false, title: 'A calendar' },
)

export type CalendarContent = Immutable<Static<typeof CalendarContent>>

export const CalendarAnswer = Type.Unsafe<Calendar>(
  answer('A calendar as it is kept', {
    id: Type.String(),
    ...CalendarContent.properties,
    standard: Type.Boolean({ description: 'whether it holds wherever no other is named' }),
    version: Type.Integer(),
  }),
)

export const calendarContracts = {
  'GET /calendars': { answer: answer('Calendars', { calendars: Type.Array(CalendarAnswer) }) },
  'POST /calendars': { body: CalendarContent, answer: CalendarAnswer },
  'PATCH /calendars/{id}': { body: CalendarContent, answer: CalendarAnswer },
  'DELETE /calendars/{id}': {},
} satisfies Contracts
