import { type Static, Type } from 'typebox'
import { day, finishing, nextOnes, OutcomeAnswer, spanParts } from '../iterations/index.ts'
import { type Answer, answer, type Contracts, identity, reference, text } from '../schema/index.ts'

const dayOrNone = Type.Union([day, Type.Null()])
/** The projects that a release belongs to; one at least. */
const projects = Type.Array(identity('pr'), { minItems: 1, maxItems: 200, uniqueItems: true })

export const NewRelease = Type.Object(
  {
    title: text(80),
    projects,
    start: Type.Optional(dayOrNone),
    end: Type.Optional(dayOrNone),
    goal: Type.Optional(text(500, 0)),
  },
  { additionalProperties: false, title: 'A new release' },
)

export const NewReleaseSeries = Type.Object(
  {
    name: text(60),
    number: Type.Integer({ minimum: 0, maximum: 100_000 }),
    projects,
    first: day,
    weeks: Type.Integer({ minimum: 1, maximum: 52 }),
    count: Type.Integer({ minimum: 1, maximum: 60 }),
  },
  { additionalProperties: false, title: 'Releases in a series' },
)

export const ReleaseChange = Type.Object(
  {
    title: Type.Optional(text(80)),
    projects: Type.Optional(projects),
    start: Type.Optional(dayOrNone),
    end: Type.Optional(dayOrNone),
    goal: Type.Optional(text(500, 0)),
  },
  { additionalProperties: false, title: 'Changes to a release' },
)

export const FinishRelease = finishing('re', 'How a release is finished')

export const ReleaseAnswer = answer('A release', {
  ...spanParts,
  projects: Type.Array(answer('A project it belongs to', { ...reference, code: Type.String() })),
})

export const ReleasePlan = answer('How a release stands', {
  release: ReleaseAnswer,
  outcome: OutcomeAnswer,
  next: nextOnes,
  mayPlan: Type.Boolean({ description: 'whether who asks keeps all its projects' }),
})

const Releases = answer('Releases', { releases: Type.Array(ReleaseAnswer) })

export type NewRelease = Static<typeof NewRelease>
export type NewReleaseSeries = Static<typeof NewReleaseSeries>
export type ReleaseChange = Static<typeof ReleaseChange>
export type FinishRelease = Static<typeof FinishRelease>
export type ReleaseAnswer = Answer<typeof ReleaseAnswer>
export type ReleasePlan = Answer<typeof ReleasePlan>

export const releaseContracts = {
  'GET /releases': { answer: Releases },
  'POST /releases': { body: NewRelease, answer: ReleaseAnswer },
  'POST /releases/series': { body: NewReleaseSeries, answer: Releases },
  'PATCH /releases/{id}': { body: ReleaseChange, answer: ReleaseAnswer },
  'DELETE /releases/{id}': {},
  'GET /releases/{id}/plan': { answer: ReleasePlan },
  'POST /releases/{id}/start': { answer: ReleaseAnswer },
  'POST /releases/{id}/finish': { body: FinishRelease, answer: ReleaseAnswer },
} satisfies Contracts
