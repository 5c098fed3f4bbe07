import { type Static, Type } from 'typebox'
import { Role } from '../people/index.ts'
import { type Answer, answer, type Contracts, orNull } from '../schema/index.ts'

const Entry = answer('Somebody in the directory who is not here', {
  email: Type.String(),
  name: Type.String(),
  role: Role,
})

const whatTheyAre = { name: Type.String(), role: Role, active: Type.Boolean() }

const Difference = answer('Somebody who is otherwise in the directory', {
  id: Type.String(),
  email: Type.String(),
  before: answer('As they are here', whatTheyAre),
  after: answer('As the directory has them', whatTheyAre),
})

const Gone = answer('Somebody who is not in the directory', {
  id: Type.String(),
  email: Type.String(),
  name: Type.String(),
  role: Role,
})

const Problem = answer('Something wrong with the directory', {
  line: Type.Integer(),
  column: orNull(Type.String()),
  message: Type.String(),
  expected: Type.Optional(Type.String()),
  found: Type.Optional(Type.String()),
})

export const DirectoryAnswer = answer('The directory beside the people here', {
  file: orNull(Type.String({ description: 'what it is called; nothing where none is set' })),
  joins: Type.Array(Entry),
  differs: Type.Array(Difference),
  gone: Type.Array(Gone, { description: 'nobody while something is wrong with the file' }),
  same: Type.Integer({ description: 'how many are here as the directory has them' }),
  problems: Type.Array(Problem),
})

const chosen = { maxItems: 10_000, uniqueItems: true }

export const DirectoryChoice = Type.Object(
  {
    joins: Type.Array(Type.String({ maxLength: 300 }), {
      ...chosen,
      description: 'whom to add, by their addresses',
    }),
    differs: Type.Array(Type.String(), { ...chosen, description: 'whom to change, by identity' }),
    gone: Type.Array(Type.String(), {
      ...chosen,
      description: 'who may not sign in any more, by identity',
    }),
  },
  { additionalProperties: false, title: 'What is taken over from the directory' },
)

const Taken = answer('What was taken over', {
  added: Type.Array(
    answer('Somebody who was added, with the address that invites them', {
      id: Type.String(),
      name: Type.String(),
      address: Type.String(),
    }),
  ),
  changed: Type.Integer(),
  gone: Type.Integer(),
})

export type DirectoryAnswer = Answer<typeof DirectoryAnswer>
export type DirectoryChoice = Static<typeof DirectoryChoice>
export type DirectoryTaken = Answer<typeof Taken>

export const directoryContracts = {
  'GET /directory': { answer: DirectoryAnswer },
  'POST /directory': { body: DirectoryChoice, answer: Taken },
} satisfies Contracts
