import { type Static, Type } from 'typebox'
import { identities, identityOrNone, text } from '../schema/index.ts'

const teamParts = {
  remit: Type.Optional(text(4000, 0)),
  calendar: Type.Optional(identityOrNone('ca')),
  people: Type.Optional(identities('pe', 1000)),
}

export const NewTeam = Type.Object(
  { title: text(80), ...teamParts },
  { additionalProperties: false, title: 'A new team' },
)

export const TeamChange = Type.Object(
  { title: Type.Optional(text(80)), ...teamParts },
  { additionalProperties: false, title: 'Changes to a team' },
)

export type NewTeam = Static<typeof NewTeam>
export type TeamChange = Static<typeof TeamChange>
