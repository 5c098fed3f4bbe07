import { type Static, Type } from 'typebox'
import { TemplateContent } from './content.ts'
import { identity, text } from '../schema/index.ts'

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
