import { type Static, Type } from 'typebox'
import type { Immutable } from '../schema/index.ts'

/** A day counted from the one on which a template is used. */
export interface RelativeDay {
  readonly in: number
  readonly unit: 'days' | 'working days'
}

export const Node = {
  title: Type.String({ minLength: 1, maxLength: 300 }),
  type: Type.String({ pattern: '^ty_[a-z0-9]{2,24}$' }),
  description: Type.Optional(Type.String({ maxLength: 20_000 })),
  values: Type.Record(Type.String(), Type.Unknown(), {
    description: 'built-in properties by handle; choices by identity, days as {in, unit}',
  }),
  fields: Type.Record(Type.String(), Type.Unknown(), { description: 'custom fields by handle' }),
}

const TemplateItem = Type.Object(Node, {
  additionalProperties: false,
  title: 'What an item begins with',
})

const TemplateChild = Type.Object(
  {
    key: Type.String({ pattern: '^[a-z0-9]{1,12}$' }),
    under: Type.Optional(
      Type.String({
        description: 'the key of the child it stands below; the item itself where it is left out',
      }),
    ),
    ...Node,
  },
  { additionalProperties: false, title: 'A child' },
)

export const TemplateContent = Type.Object(
  {
    item: TemplateItem,
    children: Type.Array(TemplateChild, { maxItems: 200 }),
    links: Type.Array(
      Type.Object(
        {
          kind: Type.String({ pattern: '^lk_[a-z0-9]{2,24}$' }),
          from: Type.String(),
          to: Type.String(),
        },
        { additionalProperties: false },
      ),
      { maxItems: 400 },
    ),
  },
  { additionalProperties: false, title: 'Content of a template' },
)

export type TemplateContent = Immutable<Static<typeof TemplateContent>>

export type Node = Immutable<Static<typeof TemplateItem>>
