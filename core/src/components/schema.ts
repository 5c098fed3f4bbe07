import { type Static, Type } from 'typebox'
import { identity, identityOrNone, merging, text } from '../schema/index.ts'

const componentParts = {
  description: Type.Optional(text(2000, 0)),
  keeper: Type.Optional(identityOrNone('pe')),
}

export const ComponentMerge = merging('co')

export const NewComponent = Type.Object(
  { project: identity('pr'), title: text(200), ...componentParts },
  { additionalProperties: false, title: 'A new component' },
)

export const ComponentChange = Type.Object(
  { title: Type.Optional(text(200)), retired: Type.Optional(Type.Boolean()), ...componentParts },
  { additionalProperties: false, title: 'Changes to a component' },
)

export type ComponentMerge = Static<typeof ComponentMerge>
export type NewComponent = Static<typeof NewComponent>
export type ComponentChange = Static<typeof ComponentChange>
