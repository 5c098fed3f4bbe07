import { type Static, Type } from 'typebox'
import { type Answer, answer, type Contracts, orNull } from '../schema/index.ts'
import { dayOrders } from './day.ts'
import { separators } from './separator.ts'

/** The forms in which answers are taken out: RFC 4180, JSON, RFC 5545, RFC 4287. */
export const formats = ['csv', 'json', 'icalendar', 'atom'] as const
export type Format = (typeof formats)[number]

export const Export = Type.Object(
  {
    filter: Type.Optional(Type.Unknown()),
    'filter-lang': Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
    kept: Type.Optional(Type.Boolean({ description: 'choices in the JSON are identities' })),
    sort: Type.Optional(Type.String({ maxLength: 4000 })),
    fields: Type.Optional(Type.String({ maxLength: 8000 })),
    'as-of': Type.Optional(Type.String({ maxLength: 40 })),
    format: Type.Enum([...formats]),
    date: Type.Optional(
      Type.String({
        maxLength: 60,
        description: 'the date that a calendar shows; due where none is named',
      }),
    ),
    title: Type.Optional(
      Type.String({ maxLength: 200, description: 'what a calendar or a feed is called' }),
    ),
  },
  { additionalProperties: false, title: 'Answers to take out' },
)

/** The forms that programs read again and again. */
export const NewSubscription = Type.Object(
  {
    filter: Type.Unknown({ description: 'CQL2 JSON; choices by identity' }),
    format: Type.Enum(['icalendar', 'atom']),
    date: Type.Optional(Type.String({ maxLength: 60 })),
    title: Type.String({ minLength: 1, maxLength: 200 }),
  },
  { additionalProperties: false, title: 'An address to subscribe to' },
)

const subscriptionParts = {
  id: Type.String(),
  title: Type.String(),
  format: Type.Enum([...formats]),
  at: Type.String(),
  readAt: orNull(Type.String({ description: 'when a program last read it' })),
}
export const SubscriptionAnswer = answer('An address that is subscribed to', subscriptionParts)
const MadeSubscription = answer('An address to subscribe to, which is told only once', {
  ...subscriptionParts,
  address: Type.String(),
})

const separator = Type.Enum([...separators])

export const NewImport = Type.Object(
  {
    project: Type.String({ maxLength: 80, description: 'its identity or its code' }),
    name: Type.String({ minLength: 1, maxLength: 200, description: 'of the file' }),
    text: Type.String({ description: 'CSV' }),
    separator: Type.Optional(separator),
  },
  { additionalProperties: false, title: 'A file to bring in' },
)

const target = Type.String({ maxLength: 120 })
const reading = {
  columns: Type.Array(orNull(target), {
    maxItems: 300,
    description:
      'what each column becomes: a field by its handle, “ref”, links (“link:”, the kind, “:out” or “:in”), or nothing',
  }),
  key: orNull(
    Type.String({ maxLength: 60, description: 'the field by which a row finds its item' }),
  ),
  days: Type.Enum([...dayOrders]),
}

export const CheckImport = Type.Object(reading, {
  additionalProperties: false,
  title: 'How a file is read',
})

export const CarryOutImport = Type.Object(
  {
    goodOnly: Type.Boolean({ description: 'whether the good rows come in where others are wrong' }),
  },
  { additionalProperties: false, title: 'A file to carry out' },
)

const count = Type.Integer()
const counts = { made: count, changed: count, same: count, wrong: count }

const Column = answer('A column of a file', {
  heading: Type.String(),
  samples: Type.Array(Type.String()),
})

export const ImportAnswer = answer('A file that is brought in', {
  id: Type.String(),
  project: Type.String(),
  name: Type.String(),
  separator,
  columns: Type.Array(Column),
  links: Type.Array(
    answer('What a column of links can become', { target: Type.String(), words: Type.String() }),
  ),
  rows: count,
  reading: answer('How it is read', reading),
  state: Type.Enum(['read', 'checked', 'waiting', 'at work', 'done', 'refused']),
  done: count,
  counts: orNull(answer('What its rows do', counts)),
  reason: orNull(Type.String({ description: 'why it was refused' })),
})

const ImportProblem = answer('Something wrong with a row', {
  line: count,
  column: orNull(Type.String()),
  message: Type.String(),
  found: Type.Optional(Type.String()),
  expected: Type.Optional(Type.String()),
})

export const ImportCheck = answer('What the rows of a file would do', {
  rows: count,
  ...counts,
  links: Type.Integer({ description: 'how many links they make' }),
  problems: Type.Array(ImportProblem, { description: 'the first of them' }),
  problemCount: count,
  unknown: Type.Array(
    answer('A value that could be made a choice', {
      handle: Type.String(),
      domain: Type.String({ description: 'label, component, or the options of a field' }),
      value: Type.String(),
      rows: count,
    }),
    { description: 'labels, components and options that rows name and that there are not' },
  ),
})

export type Export = Static<typeof Export>
export type NewImport = Static<typeof NewImport>
export type CheckImport = Static<typeof CheckImport>
export type CarryOutImport = Static<typeof CarryOutImport>
export type ImportAnswer = Answer<typeof ImportAnswer>
export type ImportCheck = Answer<typeof ImportCheck>

export type NewSubscription = Static<typeof NewSubscription>
export type SubscriptionAnswer = Answer<typeof SubscriptionAnswer>

export const exchangeContracts = {
  'GET /subscriptions': {
    answer: answer('Addresses to subscribe to', { subscriptions: Type.Array(SubscriptionAnswer) }),
  },
  'POST /subscriptions': { body: NewSubscription, answer: MadeSubscription },
  'DELETE /subscriptions/{id}': {},
  'POST /items/export': {
    body: Export,
    answer: Type.String({
      description:
        'the file: CSV (RFC 4180), JSON, iCalendar (RFC 5545) or Atom (RFC 4287), in UTF-8',
    }),
  },
  'POST /imports': { body: NewImport, answer: ImportAnswer },
  'GET /imports/{id}': { answer: ImportAnswer },
  'POST /imports/{id}/check': { body: CheckImport, answer: ImportCheck },
  'POST /imports/{id}/carry-out': { body: CarryOutImport, answer: ImportAnswer },
  'GET /imports/{id}/rest': {
    answer: Type.String({ description: 'the rows that did not come in, with what is wrong' }),
  },
  'DELETE /imports/{id}': {},
} satisfies Contracts
