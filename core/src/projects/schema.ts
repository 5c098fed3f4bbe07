import { type Static, Type } from 'typebox'
import { identities, identity, identityOrNone, text } from '../schema/index.ts'

export const NewProject = Type.Object(
  {
    title: text(80),
    code: text(10),
    description: Type.Optional(text(500, 0)),
    rulebook: identity('rb'),
    calendar: Type.Optional(identityOrNone('ca')),
    open: Type.Optional(Type.Boolean()),
    members: Type.Optional(identities('pe', 1000)),
  },
  { additionalProperties: false, title: 'A new project' },
)

export const ProjectChange = Type.Object(
  {
    title: Type.Optional(text(80)),
    description: Type.Optional(text(500, 0)),
    calendar: Type.Optional(identityOrNone('ca')),
    open: Type.Optional(Type.Boolean({ description: 'whether everybody may see it' })),
    members: Type.Optional(identities('pe', 1000)),
    keepers: Type.Optional(identities('pe', 100)),
  },
  { additionalProperties: false, title: 'Changes to a project' },
)

export type NewProject = Static<typeof NewProject>
export type ProjectChange = Static<typeof ProjectChange>
