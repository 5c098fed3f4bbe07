import { type Static, Type } from 'typebox'
import {
  type Answer,
  answer,
  type Contracts,
  identities,
  identityOrNone,
  merging,
  orNull,
  reference,
  text,
} from '../schema/index.ts'

const labelParts = {
  description: Type.Optional(text(500, 0)),
  colour: Type.Optional(Type.Integer({ minimum: 1, maximum: 9 })),
  family: Type.Optional(identityOrNone('fa')),
  project: Type.Optional(identityOrNone('pr')),
}

export const NewLabel = Type.Object(
  { title: text(200), ...labelParts },
  { additionalProperties: false, title: 'A new label' },
)

export const LabelChange = Type.Object(
  { title: Type.Optional(text(200)), retired: Type.Optional(Type.Boolean()), ...labelParts },
  { additionalProperties: false, title: 'Changes to a label' },
)

export const LabelMerge = merging('la')

export const LabelLift = Type.Object(
  { family: identityOrNone('fa'), copies: Type.Optional(identities('la', 500)) },
  { additionalProperties: false, title: 'A label lifted' },
)

export type NewLabel = Static<typeof NewLabel>
export type LabelChange = Static<typeof LabelChange>
export type LabelMerge = Static<typeof LabelMerge>
export type LabelLift = Static<typeof LabelLift>

export const LabelAnswer = answer('A label', {
  ...reference,
  family: orNull(Type.String()),
  colour: Type.Integer(),
  project: orNull(Type.String()),
  description: Type.String(),
  retired: Type.Boolean(),
  version: Type.Integer(),
})

/** How many items hold the one that is left, how many were changed now, and how many a job still changes. */
export const LabelMerged = answer('Labels merged', {
  items: Type.Integer(),
  held: Type.Integer(),
  left: Type.Integer(),
})

export type LabelAnswer = Answer<typeof LabelAnswer>

export const labelContracts = {
  'GET /labels': { answer: answer('Labels', { labels: Type.Array(LabelAnswer) }) },
  'GET /labels/recent': {
    answer: answer('Labels given last', { recent: Type.Array(Type.String()) }),
  },
  'POST /labels': { body: NewLabel, answer: LabelAnswer },
  'POST /labels/merge': { body: LabelMerge, answer: LabelMerged },
  'PATCH /labels/{id}': { body: LabelChange, answer: LabelAnswer },
  'POST /labels/{id}/lift': { body: LabelLift, answer: LabelMerged },
} satisfies Contracts
