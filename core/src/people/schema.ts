import { type Static, Type } from 'typebox'
import { type Answer, answer, type Contracts, text } from '../schema/index.ts'

/** What a person may do: look, work, or define as well. */
export const Role = Type.Enum(['viewer', 'member', 'administrator'])

/** At least eight characters and nothing else: what NIST SP 800-63B (5.1.1.2) asks of passwords that people choose. */
export const Password = Type.String({
  minLength: 8,
  maxLength: 1000,
  description: 'at least eight characters',
})

const Email = Type.String({
  maxLength: 300,
  pattern: '^\\s*[^@\\s]+@[^@\\s]+\\s*$',
  description: 'an e-mail address, which is what one signs in by',
})

export const NewPerson = Type.Object(
  {
    name: text(80),
    email: Email,
    role: Role,
    password: Type.Optional(Password),
  },
  { additionalProperties: false, title: 'A new person' },
)

export const PersonChange = Type.Object(
  {
    name: Type.Optional(text(80)),
    email: Type.Optional(Email),
    role: Type.Optional(Role),
    active: Type.Optional(
      Type.Boolean({ description: 'whether they may sign in; their name stays in history' }),
    ),
    password: Type.Optional(Password),
  },
  { additionalProperties: false, title: 'Changes to a person' },
)

export const PasswordChange = Type.Object(
  { before: Type.String({ maxLength: 1000 }), after: Password },
  { additionalProperties: false, title: 'A new password of one’s own' },
)

const seenByAll = { id: Type.String(), name: Type.String(), role: Role, active: Type.Boolean() }

/** A person as everybody sees them; administrators see how they sign in as well. */
export const PersonAnswer = Type.Object(
  {
    ...seenByAll,
    email: Type.Optional(Type.String()),
    hasPassword: Type.Optional(
      Type.Boolean({ description: 'false for somebody who was added and did not come in yet' }),
    ),
    version: Type.Optional(Type.Integer()),
  },
  { additionalProperties: false, title: 'A person' },
)

export const PeopleAnswer = Type.Object(
  { people: Type.Array(PersonAnswer) },
  { additionalProperties: false, title: 'Everybody' },
)

/** What an address that invites somebody holds, which nobody else knows. */
const secret = Type.String({ maxLength: 100 })

export const InvitationSecret = Type.Object(
  { secret },
  { additionalProperties: false, title: 'An invitation' },
)

export const AcceptedInvitation = Type.Object(
  { secret, password: Password },
  { additionalProperties: false, title: 'An invitation that is accepted' },
)

const InvitationAnswer = answer('An address that invites somebody, which is told only once', {
  address: Type.String(),
  until: Type.String({ description: 'when it ends' }),
})

const InvitedAnswer = answer('Who is invited', {
  name: Type.String(),
  email: Type.String(),
  workspace: Type.String(),
})

export type Role = Static<typeof Role>
export type NewPerson = Static<typeof NewPerson>
export type PersonChange = Static<typeof PersonChange>
export type PasswordChange = Static<typeof PasswordChange>
export type PersonAnswer = Answer<typeof PersonAnswer>
export type PeopleAnswer = Answer<typeof PeopleAnswer>

export const SignIn = Type.Object(
  { email: Type.String({ maxLength: 300 }), password: Type.String({ maxLength: 1000 }) },
  { additionalProperties: false, title: 'Sign-in' },
)

export const SessionAnswer = answer('Who one is', {
  person: answer('Oneself', {
    id: Type.String(),
    name: Type.String(),
    email: Type.String(),
    role: Role,
  }),
  workspace: answer('The workspace', {
    title: Type.String(),
    zone: Type.String(),
    demo: Type.Boolean(),
    settingUp: Type.Boolean({ description: 'whether steps are left to a working tracker' }),
  }),
  now: Type.String(),
})

export type InvitationSecret = Static<typeof InvitationSecret>
export type AcceptedInvitation = Static<typeof AcceptedInvitation>
export type InvitationAnswer = Answer<typeof InvitationAnswer>
export type InvitedAnswer = Answer<typeof InvitedAnswer>
export type SignIn = Static<typeof SignIn>
export type SessionAnswer = Answer<typeof SessionAnswer>

export const peopleContracts = {
  'GET /session': { answer: SessionAnswer },
  'POST /session': { body: SignIn, answer: answer('Signed in', {}) },
  'DELETE /session': {},
  'POST /session/password': { body: PasswordChange },
  'POST /invitation': { body: InvitationSecret, answer: InvitedAnswer },
  'POST /invitation/accepted': { body: AcceptedInvitation, answer: answer('Signed in', {}) },
  'GET /people': { answer: PeopleAnswer },
  'POST /people': { body: NewPerson, answer: PersonAnswer },
  'PATCH /people/{id}': { body: PersonChange, answer: PersonAnswer },
  'POST /people/{id}/invitation': { answer: InvitationAnswer },
} satisfies Contracts
