import { type Static, Type } from 'typebox'
import {
  type Answer,
  answer,
  type Contracts,
  identity,
  orNull,
  reference,
  text,
} from '../schema/index.ts'
import { TemplateContent } from './content.ts'
import type { Filled } from './fill.ts'

const templateParts = {
  description: Type.Optional(text(2000, 0)),
  content: Type.Optional(TemplateContent),
}

export const NewTemplate = Type.Object(
  {
    title: text(120),
    rulebook: Type.Optional(identity('rb')),
    project: Type.Optional(identity('pr')),
    description: Type.Optional(text(2000, 0)),
    content: TemplateContent,
  },
  { additionalProperties: false, title: 'A new template' },
)

export const TemplateChange = Type.Object(
  { title: Type.Optional(text(120)), retired: Type.Optional(Type.Boolean()), ...templateParts },
  { additionalProperties: false, title: 'Changes to a template' },
)

const blanks = Type.Optional(Type.Record(Type.String(), Type.String({ maxLength: 300 })))

export const TemplateUse = Type.Object(
  {
    project: Type.String(),
    blanks,
    title: Type.Optional(text(300, 0)),
    over: Type.Optional(
      Type.Record(Type.String(), Type.Unknown(), {
        description: 'what is given of the item instead of what the template says',
      }),
    ),
  },
  { additionalProperties: false, title: 'Where a template is used' },
)

export const TemplateApplication = Type.Object(
  { ref: Type.String(), how: Type.Enum(['fill', 'replace']), keep: Type.Boolean(), blanks },
  { additionalProperties: false, title: 'A template on an item' },
)

export const TemplateSource = Type.Object(
  { ref: Type.String(), children: Type.Boolean() },
  { additionalProperties: false, title: 'The item a template is made from' },
)

export type NewTemplate = Static<typeof NewTemplate>
export type TemplateChange = Static<typeof TemplateChange>
export type TemplateUse = Static<typeof TemplateUse>
export type TemplateApplication = Static<typeof TemplateApplication>
export type TemplateSource = Static<typeof TemplateSource>

/** One part of a template that no longer fits: where it stands, what is wrong, and what the mend does. */
export const Stale = answer('A part that no longer fits', {
  pointer: Type.String(),
  message: Type.String(),
  mend: orNull(Type.String()),
})
export type Stale = Answer<typeof Stale>
const left = Type.Array(Stale)

export const TemplateAnswer = answer('A template as it is kept', {
  ...reference,
  description: Type.String(),
  rulebook: orNull(Type.String()),
  project: orNull(Type.String()),
  content: TemplateContent,
  retired: Type.Boolean(),
  version: Type.Integer(),
  usedAt: orNull(Type.String()),
  changedAt: Type.String(),
  stale: left,
  blanks: Type.Array(Type.String()),
  mayEdit: Type.Boolean(),
})

const values = Type.Record(Type.String(), Type.Unknown())

const FilledAnswer = Type.Unsafe<Filled>(
  answer('An item a template makes', {
    key: Type.String(),
    under: orNull(Type.String()),
    title: Type.String(),
    type: Type.String(),
    description: Type.Optional(Type.String()),
    values,
    fields: values,
  }),
)

export const FillingAnswer = answer('What a form is filled with', {
  item: FilledAnswer,
  children: Type.Array(FilledAnswer),
  left,
})

export const ApplicationAnswer = answer('What applying a template changes', {
  values,
  fields: values,
  before: answer('What stood there', { values, fields: values }),
  left,
  kept: Type.Boolean(),
})

export type TemplateAnswer = Answer<typeof TemplateAnswer>
export type FillingAnswer = Answer<typeof FillingAnswer>
export type ApplicationAnswer = Answer<typeof ApplicationAnswer>

export const templateContracts = {
  'GET /templates': { answer: answer('Templates', { templates: Type.Array(TemplateAnswer) }) },
  'POST /templates': { body: NewTemplate, answer: TemplateAnswer },
  'POST /templates/from': {
    body: TemplateSource,
    answer: answer('What a template would hold', { content: TemplateContent, left }),
  },
  'GET /templates/{id}': { answer: TemplateAnswer },
  'PATCH /templates/{id}': { body: TemplateChange, answer: TemplateAnswer },
  'POST /templates/{id}/mend': { answer: TemplateAnswer },
  'POST /templates/{id}/fill': { body: TemplateUse, answer: FillingAnswer },
  'POST /templates/{id}/make': {
    body: TemplateUse,
    answer: answer('Items made', {
      ref: Type.String(),
      refs: Type.Array(Type.String()),
      left,
    }),
  },
  'POST /templates/{id}/apply': { body: TemplateApplication, answer: ApplicationAnswer },
} satisfies Contracts
