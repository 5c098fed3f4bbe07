import { type Static, Type } from 'typebox'
import { filterForms } from '../queries/schema.ts'
import {
  type Answer,
  answer,
  type Contracts,
  identities,
  identityOrNone,
  orNull,
  reference,
  text,
} from '../schema/index.ts'

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

export const TeamAnswer = answer('A team as it is kept', {
  ...reference,
  people: Type.Array(Type.String()),
  remit: answer('The filter for what is theirs', { kept: Type.Unknown(), ...filterForms }),
  calendar: orNull(Type.String()),
  version: Type.Integer(),
})

export type TeamAnswer = Answer<typeof TeamAnswer>

export const teamContracts = {
  'GET /teams': { answer: answer('Teams', { teams: Type.Array(TeamAnswer) }) },
  'POST /teams': { body: NewTeam, answer: TeamAnswer },
  'PATCH /teams/{id}': { body: TeamChange, answer: TeamAnswer },
  'DELETE /teams/{id}': {},
} satisfies Contracts
