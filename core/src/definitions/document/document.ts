import { Type, type Static, type TProperties } from 'typebox'
import { phases } from '../../vocabulary/vocabulary.ts'

/** An object schema that allows nothing beside what it names. */
const closed = <T extends TProperties>(properties: T, title: string) =>
  Type.Object(properties, { additionalProperties: false, title })
const title = Type.String({ minLength: 1, maxLength: 80, description: 'what people read' })
const description = Type.String({ maxLength: 2000, description: 'when to use it' })
const order = Type.String({
  minLength: 1,
  maxLength: 200,
  description: 'a sortable key: entries stand in its order, by code point',
})
const identity = (prefix: string) => Type.String({ pattern: `^${prefix}_[a-z0-9]{2,24}$` })
const byIdentity = <T extends ReturnType<typeof closed>>(prefix: string, entry: T) =>
  Type.Record(Type.String({ pattern: `^${prefix}_[a-z0-9]{2,24}$` }), entry, {
    additionalProperties: false,
  })

export const fieldKinds = [
  'text',
  'long text',
  'number',
  'date',
  'moment',
  'yes/no',
  'choice',
  'several choices',
  'person',
  'people',
  'web address',
  'score',
  'roll-up',
] as const
export type FieldKind = (typeof fieldKinds)[number]

/** Kinds that are computed whenever they are asked for, and never stored. */
export const isComputed = (kind: FieldKind): boolean => kind === 'score' || kind === 'roll-up'

export const rollUps = ['sum', 'least', 'greatest', 'share done'] as const
export const estimateUnits = ['hours', 'points', 'days'] as const
/** Who a requirement may ask for, beside what an item must hold. */
export const requiredRoles = ['administrator', 'keeper of the project', 'assignee'] as const

const retired = Type.Optional(
  Type.Boolean({ description: 'kept where it is used, no longer offered' }),
)
const identities = (prefix: string) =>
  Type.Array(identity(prefix), { maxItems: 200, uniqueItems: true })

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
    entries: Type.Record(Type.String(), Type.Union([RulebookEntry, Type.Literal('out')]), {
      description:
        'by key: type:TY, status:TY:ST, move:TY:FROM:TO, requirement:TY:ST, form:TY:item:FIELD, form:TY:make:FIELD, ladder, unit, family:FA, link:LK, limit:TL',
    }),
  },
  'Rulebook',
)

/** The whole vocabulary of an organisation: one document, kept whole by every edition. */
export const DefinitionsDocument = closed(
  {
    format: Type.Literal(1),
    types: byIdentity('ty', ItemType),
    fields: byIdentity('fi', Field),
    statuses: byIdentity('st', Status),
    priorities: byIdentity('pi', Priority),
    ladders: byIdentity('ld', Ladder),
    families: byIdentity('fa', Family),
    linkKinds: byIdentity('lk', LinkKind),
    limits: byIdentity('tl', TimeLimit),
    rulebooks: byIdentity('rb', Rulebook),
    projects: Type.Record(Type.String({ pattern: '^pr_[a-z0-9]{2,24}$' }), identity('rb'), {
      additionalProperties: false,
      description: 'which rulebook each project follows',
    }),
  },
  'Bluestem definitions',
)

export type ItemType = Static<typeof ItemType>
export type Option = Static<typeof Option>
export type Field = Static<typeof Field>
export type Status = Static<typeof Status>
export type Priority = Static<typeof Priority>
export type Ladder = Static<typeof Ladder>
export type Family = Static<typeof Family>
export type LinkKind = Static<typeof LinkKind>
export type TimeLimit = Static<typeof TimeLimit>
export type Requirement = Static<typeof Requirement>
export type RollUp = Static<typeof RollUp>
export type RulebookEntry = Static<typeof RulebookEntry>
export type Rulebook = Static<typeof Rulebook>
export type DefinitionsDocument = Static<typeof DefinitionsDocument>

/** The maps of the document that hold definitions with a title and a description. */
export const sections = [
  'types',
  'fields',
  'statuses',
  'priorities',
  'ladders',
  'families',
  'linkKinds',
  'limits',
  'rulebooks',
] as const
export type Section = (typeof sections)[number]

/** What an identity of each section begins with. */
export const prefixes: Record<Section, string> = {
  types: 'ty',
  fields: 'fi',
  statuses: 'st',
  priorities: 'pi',
  ladders: 'ld',
  families: 'fa',
  linkKinds: 'lk',
  limits: 'tl',
  rulebooks: 'rb',
}

/** What one entry of a section is called. */
export const sectionWords: Record<Section, string> = {
  types: 'type',
  fields: 'field',
  statuses: 'status',
  priorities: 'priority',
  ladders: 'ladder',
  families: 'family',
  linkKinds: 'link kind',
  limits: 'time limit',
  rulebooks: 'rulebook',
}

export interface Ordered {
  readonly order: string
}

/** The entries of a map in their defined order: by key, then identity, by code point. */
export function inOrder<T extends Ordered>(
  map: Readonly<Record<string, T>>,
): (T & { readonly id: string })[] {
  return Object.entries(map)
    .map(([id, entry]) => ({ ...entry, id }))
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
}

/** A document in which nothing is defined yet. */
export const emptyDocument: DefinitionsDocument = {
  format: 1,
  types: {},
  fields: {},
  statuses: {},
  priorities: {},
  ladders: {},
  families: {},
  linkKinds: {},
  limits: {},
  rulebooks: {},
  projects: {},
}
