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

const day = Type.String({ pattern: '^\\d{4}-\\d{2}-\\d{2}$', description: 'as 2026-03-31' })
const anyIteration = Type.String({ pattern: '^it_' })

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

export const FinishIteration = Type.Object(
  {
    to: Type.Union([anyIteration, Type.Null()], {
      description: 'where what is open goes: another iteration, or none',
    }),
    others: Type.Optional(
      Type.Array(
        Type.Object(
          { ref: text(30), to: Type.Union([anyIteration, Type.Null()]) },
          { additionalProperties: false },
        ),
        { maxItems: 2000, description: 'items that go elsewhere, or stay where they are' },
      ),
    ),
  },
  { additionalProperties: false, title: 'How an iteration is finished' },
)

export const iterationStates = ['planned', 'running', 'finished'] as const

export const IterationAnswer = answer('An iteration', {
  ...reference,
  team: orNull(answer('Its team', reference)),
  start: orNull(Type.String()),
  end: orNull(Type.String({ description: 'its last day' })),
  goal: Type.String(),
  state: Type.Enum([...iterationStates]),
  startedAt: orNull(Type.String()),
  finishedAt: orNull(Type.String()),
  items: Type.Integer({ description: 'that are in it and may be seen' }),
  done: Type.Integer(),
  version: Type.Integer(),
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
  outcome: answer('What became of it', {
    inside: Sum,
    done: Sum,
    open: Sum,
    committed: Sum,
    later: Sum,
    left: Sum,
  }),
  next: Type.Array(answer('An iteration that what is open can go to', reference)),
})

const Iterations = answer('Iterations', { iterations: Type.Array(IterationAnswer) })

export type NewIteration = Static<typeof NewIteration>
export type NewSeries = Static<typeof NewSeries>
export type IterationChange = Static<typeof IterationChange>
export type FinishIteration = Static<typeof FinishIteration>
export type IterationAnswer = Answer<typeof IterationAnswer>
export type PlanAnswer = Answer<typeof PlanAnswer>

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
