import { type Static, Type } from 'typebox'
import { identities, identityOrNone, merging, text } from '../schema/index.ts'

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
