import {
  byIdentity,
  closed,
  description,
  identities,
  identity,
  order,
  retired,
  title,
} from './shapes.ts'
import { type Static, Type } from 'typebox'
import type { Immutable } from '../../schema/index.ts'
import { fieldKinds, rollUps } from './fieldKinds.ts'
import { phases } from './phases.ts'

export const ItemType = closed(
  {
    order,
    title,
    description,
    retired,
    monogram: Type.String({
      pattern: '^\\p{Lu}\\p{Ll}$',
      description: 'two letters that stand for the type on rows and cards',
    }),
    tier: Type.Integer({
      minimum: 0,
      maximum: 4,
      description: '0 the smallest; a parent is always of a higher tier',
    }),
    below: Type.Optional(
      Type.Array(identity('ty'), {
        maxItems: 200,
        uniqueItems: true,
        description: 'the types that may stand below it; any of a lower tier where it is left out',
      }),
    ),
  },
  'Type',
)

export const Option = closed(
  {
    order,
    title,
    description,
    retired,
    colour: Type.Optional(
      Type.Integer({ minimum: 1, maximum: 9, description: 'a colour of the set' }),
    ),
  },
  'Option',
)

export const RollUp = closed(
  {
    how: Type.Enum([...rollUps]),
    of: Type.Optional(
      Type.String({
        maxLength: 40,
        description: 'the handle of the number that is added or compared; a share done needs none',
      }),
    ),
  },
  'Roll-up',
)

export const Field = closed(
  {
    order,
    title,
    description,
    retired,
    handle: Type.String({
      pattern: '^[a-z][a-z0-9_]{0,39}$',
      description: 'its name in queries and files; it never changes',
    }),
    kind: Type.Enum([...fieldKinds]),
    unit: Type.Optional(Type.String({ maxLength: 12 })),
    decimals: Type.Optional(Type.Integer({ minimum: 0, maximum: 6 })),
    smallest: Type.Optional(Type.Number()),
    largest: Type.Optional(Type.Number()),
    pattern: Type.Optional(
      Type.String({
        minLength: 1,
        maxLength: 200,
        description: 'a regular expression that the whole text must match',
      }),
    ),
    default: Type.Optional(
      Type.Union(
        [
          Type.String({ maxLength: 300 }),
          Type.Number(),
          Type.Boolean(),
          Type.Array(Type.String(), { maxItems: 200 }),
        ],
        {
          description:
            'what a new item gets; “today” with days added or taken away, and “me”, are relative',
        },
      ),
    ),
    options: Type.Optional(byIdentity('op', Option)),
    formula: Type.Optional(
      Type.String({
        minLength: 1,
        maxLength: 1000,
        description: 'CQL2 arithmetic over the handles of numbers',
      }),
    ),
    empty: Type.Optional(
      Type.Union([Type.Number(), Type.Null()], {
        description: 'what an empty part of a score counts as; null: then there is no score',
      }),
    ),
    rollUp: Type.Optional(RollUp),
  },
  'Field',
)

export const Status = closed(
  {
    order,
    title,
    description,
    retired,
    phase: Type.Enum([...phases]),
    queue: Type.Boolean({ description: 'work lies still in it' }),
  },
  'Status',
)

export const Priority = closed(
  {
    order,
    title,
    description,
    retired,
    urgency: Type.Integer({
      minimum: 1,
      maximum: 5,
      description: '1 the most urgent; means the same for everybody',
    }),
  },
  'Priority',
)

export const Ladder = closed(
  {
    order,
    title,
    description,
    retired,
    rungs: Type.Record(Type.String({ pattern: '^pi_[a-z0-9]{2,24}$' }), closed({ order }, 'Rung'), {
      additionalProperties: false,
    }),
    default: Type.Union([identity('pi'), Type.Null()]),
  },
  'Ladder',
)

export const Family = closed(
  {
    order,
    title,
    description,
    retired,
    pick: Type.Union([Type.Literal('one'), Type.Literal('many')]),
  },
  'Family',
)

export const LinkKind = closed(
  {
    order,
    title,
    description,
    retired,
    inverse: title,
    from: Type.Optional(identities('ty')),
    to: Type.Optional(identities('ty')),
    refusesCircles: Type.Optional(Type.Boolean()),
  },
  'Link kind',
)

export type ItemType = Immutable<Static<typeof ItemType>>

export type Option = Immutable<Static<typeof Option>>

export type Field = Immutable<Static<typeof Field>>

export type Status = Immutable<Static<typeof Status>>

export type Priority = Immutable<Static<typeof Priority>>

export type Ladder = Immutable<Static<typeof Ladder>>

export type Family = Immutable<Static<typeof Family>>

export type LinkKind = Immutable<Static<typeof LinkKind>>

export type RollUp = Immutable<Static<typeof RollUp>>
