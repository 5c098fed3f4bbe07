import { type Static, Type } from 'typebox'
import {
  type Answer,
  answer,
  type Contracts,
  identities,
  identity,
  identityOrNone,
  orNull,
  reference,
  ShownChoice,
  text,
} from '../schema/index.ts'

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

const whatItIs = {
  ...reference,
  code: Type.String(),
  description: Type.String(),
}

/** A project as everybody who sees it may know it; `rulebook` is the title of the one it follows. */
export const ProjectAnswer = answer('A project', {
  ...whatItIs,
  open: Type.Boolean(),
  calendar: orNull(Type.String()),
  version: Type.Integer(),
  members: Type.Array(Type.String()),
  keepers: Type.Array(Type.String()),
  rulebook: orNull(Type.String()),
  phases: Type.Array(Type.Integer(), { description: 'items that are idle, active, done, dropped' }),
})

const FormEntry = answer('A field on a form', {
  field: Type.String(),
  handle: Type.String(),
  section: Type.String(),
  required: Type.Boolean(),
  shownWhen: Type.Optional(
    answer('When it is shown', {
      field: Type.String(),
      values: Type.Array(Type.Union([Type.String(), Type.Boolean()])),
    }),
  ),
})

const OfferedType = answer('A type on offer', {
  ...reference,
  mark: Type.String(),
  description: Type.String(),
  start: orNull(Type.String()),
  statuses: Type.Array(ShownChoice),
  moves: Type.Array(Type.String()),
  below: Type.Array(Type.String(), { description: 'the types that may stand below it' }),
  item: Type.Array(FormEntry),
  make: Type.Array(FormEntry),
})

const OfferedTemplate = answer('A template on offer', {
  ...reference,
  description: Type.String(),
  type: Type.String(),
  below: Type.Integer({ description: 'items it makes below the first' }),
  blanks: Type.Array(Type.String()),
})

export const OffersAnswer = answer('What a project offers', {
  ...whatItIs,
  rulebook: ShownChoice,
  priority: orNull(Type.String()),
  priorities: Type.Array(ShownChoice),
  types: Type.Array(OfferedType),
  templates: Type.Array(OfferedTemplate),
  links: Type.Array(answer('A link kind on offer', { ...reference, inverse: Type.String() })),
  usual: orNull(Type.String({ description: 'the type made most of late' })),
})

export type ProjectAnswer = Answer<typeof ProjectAnswer>
export type FormEntry = Answer<typeof FormEntry>
export type OfferedType = Answer<typeof OfferedType>
export type OfferedTemplate = Answer<typeof OfferedTemplate>
export type OffersAnswer = Answer<typeof OffersAnswer>

export const projectContracts = {
  'GET /projects': { answer: answer('Projects', { projects: Type.Array(ProjectAnswer) }) },
  'GET /projects/{code}/offers': { answer: OffersAnswer },
  'POST /projects': {
    body: NewProject,
    answer: answer('A project made', {
      ...reference,
      code: Type.String(),
      rulebook: Type.String(),
      edition: Type.Integer({ description: 'the edition in which it follows its rulebook' }),
    }),
  },
  'PATCH /projects/{id}': {
    body: ProjectChange,
    answer: answer('A project changed', { ...reference, version: Type.Integer() }),
  },
} satisfies Contracts
