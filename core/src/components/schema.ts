import { type Static, Type } from 'typebox'
import {
  type Answer,
  answer,
  type Contracts,
  identity,
  identityOrNone,
  merging,
  orNull,
  reference,
  text,
} from '../schema/index.ts'

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

export const ComponentAnswer = answer('A component', {
  ...reference,
  project: Type.String(),
  keeper: orNull(answer('Who keeps it', reference)),
  description: Type.String(),
  retired: Type.Boolean(),
  version: Type.Integer(),
})

export type ComponentAnswer = Answer<typeof ComponentAnswer>

export const componentContracts = {
  'GET /components': { answer: answer('Components', { components: Type.Array(ComponentAnswer) }) },
  'POST /components': { body: NewComponent, answer: ComponentAnswer },
  'POST /components/merge': {
    body: ComponentMerge,
    answer: answer('Components merged', { items: Type.Integer(), held: Type.Integer() }),
  },
  'PATCH /components/{id}': { body: ComponentChange, answer: ComponentAnswer },
} satisfies Contracts
