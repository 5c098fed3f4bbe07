import { type Static, Type } from 'typebox'
import type { Answer, Contracts } from '../schema/index.ts'

/** How a job stands: waiting for its time, at work, failed and tried again later, given up, done, refused for a reason, or cancelled. */
export const JobState = Type.Enum([
  'waiting',
  'at work',
  'tried again',
  'given up',
  'done',
  'refused',
  'cancelled',
])

const optionalText = Type.Union([Type.String(), Type.Null()])

export const JobAnswer = Type.Object(
  {
    key: Type.String({ description: 'tells the job from all others that are not over' }),
    kind: Type.String(),
    title: Type.String({ description: 'what it is about' }),
    by: Type.Union([Type.String(), Type.Null()]),
    state: JobState,
    at: Type.String({ description: 'when it is due or tried again, or when it was over' }),
    done: Type.Integer(),
    total: Type.Integer({ description: '0 where it does not count' }),
    attempts: Type.Integer(),
    reason: optionalText,
    cancellable: Type.Boolean(),
  },
  { additionalProperties: false, title: 'A job' },
)

export const JobsAnswer = Type.Object(
  { jobs: Type.Array(JobAnswer) },
  { additionalProperties: false, title: 'Jobs' },
)

export type JobState = Static<typeof JobState>
export type JobAnswer = Answer<typeof JobAnswer>
export type JobsAnswer = Answer<typeof JobsAnswer>

export const jobContracts = {
  'GET /jobs': { answer: JobsAnswer },
  'POST /jobs/{key}/try': {},
  'DELETE /jobs/{key}': {},
} satisfies Contracts
