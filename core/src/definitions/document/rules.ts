import { entryKeyPattern } from './entryKinds.ts'
import { closed, description, identities, identity, order, retired, title } from './shapes.ts'
import { type Static, Type } from 'typebox'
import type { Immutable } from '../../schema/index.ts'
import { estimateUnits, requiredRoles } from './fieldKinds.ts'

/** How long an item may stay unanswered or unfinished; the first allowance that fits an item is its own. */
export const TimeLimit = closed(
  {
    order,
    title,
    description,
    retired,
    what: Type.Union([Type.Literal('respond'), Type.Literal('resolve')]),
    allowances: Type.Array(
      closed(
        {
          urgency: Type.Optional(Type.Integer({ minimum: 1, maximum: 5 })),
          priority: Type.Optional(identity('pi')),
          label: Type.Optional(Type.String({ pattern: '^la_[a-z0-9]{2,24}$' })),
          minutes: Type.Integer({ minimum: 1, maximum: 5_256_000, description: 'of working time' }),
        },
        'Allowance',
      ),
      { minItems: 1, maxItems: 40 },
    ),
    starts: Type.Optional(identities('st')),
    stops: Type.Optional(
      Type.Array(identity('st'), {
        maxItems: 200,
        uniqueItems: true,
        description: 'statuses in which the clock stands still; on hold it always does',
      }),
    ),
    ends: Type.Array(identity('st'), { minItems: 1, maxItems: 200, uniqueItems: true }),
    warnAt: Type.Integer({ minimum: 1, maximum: 100, description: 'percent of the allowance' }),
  },
  'Time limit',
)

/** What entering a status requires. Where several things are asked, all of them must hold. */
export const Requirement = closed(
  {
    role: Type.Optional(Type.Enum([...requiredRoles])),
    filled: Type.Optional(
      Type.Array(Type.String({ maxLength: 40 }), {
        maxItems: 50,
        uniqueItems: true,
        description: 'custom fields by identity, built-in ones by handle',
      }),
    ),
    belowDone: Type.Optional(Type.Boolean()),
    comment: Type.Optional(
      Type.Boolean({ description: 'something said since it came to where it stands' }),
    ),
    reason: Type.Optional(Type.Boolean({ description: 'something said with the move itself' })),
    been: Type.Optional(
      Type.Array(identity('st'), {
        maxItems: 50,
        uniqueItems: true,
        description: 'it must have been in one of these before',
      }),
    ),
    says: Type.Optional(
      Type.String({ maxLength: 500, description: 'what the refused person reads' }),
    ),
  },
  'Requirement',
)

/** What an entry of a rulebook may hold; which parts it has follows from its key. */
export const RulebookEntry = closed(
  {
    order: Type.Optional(order),
    start: Type.Optional(identity('st')),
    section: Type.Optional(Type.String({ maxLength: 80 })),
    required: Type.Optional(Type.Boolean()),
    shownWhen: Type.Optional(
      closed(
        {
          field: Type.String({ maxLength: 40 }),
          values: Type.Array(Type.Union([Type.String({ maxLength: 80 }), Type.Boolean()]), {
            minItems: 1,
            maxItems: 50,
          }),
        },
        'Shown when',
      ),
    ),
    requires: Type.Optional(Requirement),
    ladder: Type.Optional(identity('ld')),
    unit: Type.Optional(Type.Enum([...estimateUnits])),
    requiredFor: Type.Optional(identities('ty')),
    closed: Type.Optional(Type.Boolean({ description: 'members make no labels in it' })),
  },
  'Entry of a rulebook',
)

export const Rulebook = closed(
  {
    order,
    title,
    description,
    retired,
    extends: Type.Union([identity('rb'), Type.Null()]),
    entries: Type.Record(
      Type.String({ pattern: entryKeyPattern }),
      Type.Union([RulebookEntry, Type.Literal('out')]),
      {
        additionalProperties: false,
        description:
          'by key: type:TY, status:TY:ST, move:TY:FROM:TO, requirement:TY:ST, form:TY:item:FIELD, form:TY:make:FIELD, ladder, unit, family:FA, link:LK, limit:TL',
      },
    ),
  },
  'Rulebook',
)

export type TimeLimit = Immutable<Static<typeof TimeLimit>>

export type Requirement = Immutable<Static<typeof Requirement>>

export type RulebookEntry = Immutable<Static<typeof RulebookEntry>>

export type Rulebook = Immutable<Static<typeof Rulebook>>
