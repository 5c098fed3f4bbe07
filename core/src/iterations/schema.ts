import { type Static, Type } from 'typebox'
import {
  type Answer,
  answer,
  type Contracts,
  identity,
  identityOrNone,
  orNull,
  reference,
  text,
} from '../schema/index.ts'

export const day = Type.String({ pattern: '^\\d{4}-\\d{2}-\\d{2}$', description: 'as 2026-03-31' })

/** How a span of one kind is finished: where what is open in it goes, all of it and item by item. */
export function finishing(prefix: 'it' | 're', title: string) {
  const place = Type.Union([Type.String({ pattern: `^${prefix}_` }), Type.Null()])
  return Type.Object(
    {
      to: Type.Union([...place.anyOf], {
        description: 'where what is open goes: another one, or none',
      }),
      others: Type.Optional(
        Type.Array(Type.Object({ ref: text(30), to: place }, { additionalProperties: false }), {
          maxItems: 2000,
          description: 'items that go elsewhere, or stay where they are',
        }),
      ),
    },
    { additionalProperties: false, title },
  )
}

export const NewIteration = Type.Object(
  {
    title: text(80),
    team: Type.Optional(identityOrNone('tm')),
    start: day,
    end: day,
    goal: Type.Optional(text(500, 0)),
  },
  { additionalProperties: false, title: 'A new iteration' },
)

export const NewSeries = Type.Object(
  {
    name: text(60),
    number: Type.Integer({ minimum: 0, maximum: 100_000 }),
    team: Type.Optional(identityOrNone('tm')),
    first: day,
    weeks: Type.Integer({ minimum: 1, maximum: 12 }),
    count: Type.Integer({ minimum: 1, maximum: 60 }),
  },
  { additionalProperties: false, title: 'Iterations in a series' },
)

export const IterationChange = Type.Object(
  {
    title: Type.Optional(text(80)),
    start: Type.Optional(day),
    end: Type.Optional(day),
    goal: Type.Optional(text(500, 0)),
  },
  { additionalProperties: false, title: 'Changes to an iteration' },
)

export const FinishIteration = finishing('it', 'How an iteration is finished')

export const spanStates = ['planned', 'running', 'finished'] as const

/** What iterations and releases tell of themselves alike. */
export const spanParts = {
  ...reference,
  start: orNull(Type.String()),
  end: orNull(Type.String({ description: 'its last day' })),
  goal: Type.String(),
  state: Type.Enum([...spanStates]),
  startedAt: orNull(Type.String()),
  finishedAt: orNull(Type.String()),
  items: Type.Integer({ description: 'that are in it and may be seen' }),
  done: Type.Integer(),
  version: Type.Integer(),
}
export type SpanAnswer = Answer<ReturnType<typeof answer<typeof spanParts>>>

export const IterationAnswer = answer('An iteration', {
  ...spanParts,
  team: orNull(answer('Its team', reference)),
})

const Sum = answer('Items with the sums of their estimates', {
  refs: Type.Array(Type.String()),
  sums: Type.Array(
    answer('A sum of one unit', {
      unit: Type.Enum(['hours', 'points', 'days']),
      sum: Type.Number(),
    }),
  ),
  unestimated: Type.Integer(),
})

export const OutcomeAnswer = answer('What became of it', {
  inside: Sum,
  done: Sum,
  open: Sum,
  committed: Sum,
  later: Sum,
  left: Sum,
})

/** Where what is open can go. */
export const nextOnes = Type.Array(answer('One that what is open can go to', reference))

export const PlanAnswer = answer('How an iteration stands', {
  iteration: IterationAnswer,
  capacity: orNull(
    answer('How much can be worked in it', {
      workingDays: Type.Integer(),
      people: Type.Array(
        answer('How much somebody can work', {
          ...reference,
          days: Type.Integer(),
          away: Type.Integer(),
          hours: Type.Number(),
        }),
      ),
      days: Type.Integer(),
      hours: Type.Number(),
    }),
  ),
  outcome: OutcomeAnswer,
  next: nextOnes,
})

const Iterations = answer('Iterations', { iterations: Type.Array(IterationAnswer) })

export type NewIteration = Static<typeof NewIteration>
export type NewSeries = Static<typeof NewSeries>
export type IterationChange = Static<typeof IterationChange>
export type FinishIteration = Static<typeof FinishIteration>
export type IterationAnswer = Answer<typeof IterationAnswer>
export type PlanAnswer = Answer<typeof PlanAnswer>
export type OutcomeAnswer = Answer<typeof OutcomeAnswer>

export const AbsenceAnswer = answer('Days on which somebody is away', {
  id: Type.Integer(),
  person: answer('Who is away', reference),
  start: Type.String(),
  end: Type.String({ description: 'the last day' }),
  note: Type.String(),
})

export const NewAbsence = Type.Object(
  { person: identity('pe'), start: day, end: day, note: Type.Optional(text(200, 0)) },
  { additionalProperties: false, title: 'Days on which somebody is away' },
)

export type AbsenceAnswer = Answer<typeof AbsenceAnswer>
export type NewAbsence = Static<typeof NewAbsence>

export const iterationContracts = {
  'GET /iterations': { answer: Iterations },
  'POST /iterations': { body: NewIteration, answer: IterationAnswer },
  'POST /iterations/series': { body: NewSeries, answer: Iterations },
  'PATCH /iterations/{id}': { body: IterationChange, answer: IterationAnswer },
  'DELETE /iterations/{id}': {},
  'GET /iterations/{id}/plan': { answer: PlanAnswer },
  'POST /iterations/{id}/start': { answer: IterationAnswer },
  'POST /iterations/{id}/finish': { body: FinishIteration, answer: IterationAnswer },
  'GET /absences': { answer: answer('Absences', { absences: Type.Array(AbsenceAnswer) }) },
  'POST /absences': { body: NewAbsence, answer: AbsenceAnswer },
  'DELETE /absences/{absence}': {},
} satisfies Contracts
