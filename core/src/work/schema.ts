import { type Static, Type } from 'typebox'
import { ItemAnswer } from '../queries/schema.ts'
import { type Answer, answer, type Contracts, orNull, ShownChoice } from '../schema/index.ts'

const choice = Type.Union([Type.String({ maxLength: 300 }), Type.Object({ id: Type.String() })], {
  description: 'its identity or its exact name',
})
const several = Type.Array(choice, { maxItems: 200 })
const number = Type.Union(
  [
    Type.Number(),
    Type.String({ maxLength: 60 }),
    Type.Object({
      op: Type.Literal('decimal'),
      args: Type.Array(Type.String({ maxLength: 60 }), { minItems: 1, maxItems: 1 }),
    }),
  ],
  { description: 'a number, or its decimal text where a number would be rounded' },
)

/** What may be given of an item; the kinds of custom fields are judged against their definitions. */
const values = {
  description: orNull(Type.String()),
  status: choice,
  priority: orNull(choice),
  assignee: orNull(choice),
  parent: orNull(Type.String()),
  labels: several,
  components: several,
  iteration: orNull(choice),
  release: orNull(choice),
  estimate: orNull(number),
  remaining: orNull(number),
  start: orNull(Type.String()),
  due: orNull(Type.String()),
  on_hold: Type.Boolean(),
  hold_reason: orNull(Type.String()),
  position: Type.Object(
    { before: Type.Optional(Type.String()), after: Type.Optional(Type.String()) },
    { additionalProperties: false, description: 'refs of the neighbours it is put between' },
  ),
  fields: Type.Record(Type.String(), Type.Unknown(), {
    maxProperties: 100,
    description: 'custom fields by handle',
  }),
}

export const MakeItem = Type.Object(
  {
    project: Type.String(),
    type: choice,
    title: Type.String(),
    ...Type.Partial(Type.Object(values)).properties,
  },
  { additionalProperties: false, title: 'A new item' },
)
export const EditItem = Type.Partial(
  Type.Object({
    title: Type.String(),
    type: choice,
    comment: Type.String({
      minLength: 1,
      maxLength: 20_000,
      description: 'something said with the change',
    }),
    ...values,
  }),
  { additionalProperties: false, title: 'Changes to an item' },
)
export const MakeComment = Type.Object(
  { body: Type.String({ minLength: 1, maxLength: 20_000 }) },
  { additionalProperties: false, title: 'A comment' },
)

/** The built-in properties that people give; the others follow from what happens to an item. */
export const givenHandles: ReadonlySet<string> = new Set([
  'title',
  'type',
  ...Object.keys(values).filter((handle) => handle !== 'position' && handle !== 'fields'),
])

export const NewLink = Type.Object(
  {
    kind: Type.String({ pattern: '^lk_[a-z0-9_]{1,40}$' }),
    direction: Type.Enum(['out', 'in'], {
      description: 'out: this item stands first, as in “waits for”; in: the other one does',
    }),
    to: Type.String({ maxLength: 30, description: 'the ref of the other item' }),
  },
  { additionalProperties: false, title: 'A new link' },
)

export const LinkAnswer = answer('A link with another item', {
  id: Type.Integer(),
  kind: Type.String(),
  direction: Type.Enum(['out', 'in']),
  words: Type.String({ description: 'how this item stands to the other: waits for, holds up' }),
  ref: Type.String(),
  title: Type.String(),
  type: ShownChoice,
  status: ShownChoice,
})
const LinksAnswer = answer('Links', { links: Type.Array(LinkAnswer) })

export type NewLink = Static<typeof NewLink>
export type LinkAnswer = Answer<typeof LinkAnswer>
export type MakeItem = Static<typeof MakeItem>
export type EditItem = Static<typeof EditItem>
export type MakeComment = Static<typeof MakeComment>

const LimitAnswer = answer('A time limit as it stands', {
  id: Type.String(),
  title: Type.String(),
  what: Type.String(),
  state: Type.String(),
  allowed: Type.Number({ description: 'working minutes' }),
  used: Type.Number({ description: 'working minutes' }),
  warning: Type.Boolean(),
  runsOut: orNull(Type.String()),
  calendar: Type.String(),
  team: orNull(Type.String()),
})

/** One item whole: every value, where it may go, and how it stands to its relatives. */
export const WholeItemAnswer = Type.Object(
  {
    ...ItemAnswer.properties,
    status: ShownChoice,
    etag: Type.String(),
    rulebook: Type.String(),
    statusSince: Type.String(),
    holdSince: orNull(Type.String()),
    moves: Type.Array(
      answer('A move', {
        ...ShownChoice.properties,
        missing: Type.Array(Type.String()),
        says: orNull(Type.String()),
        asksReason: Type.Boolean(),
      }),
    ),
    refusals: Type.Array(
      answer('A move that is refused', { ...ShownChoice.properties, message: Type.String() }),
    ),
    limits: Type.Array(LimitAnswer),
    children: Type.Array(
      answer('An item below', {
        ref: Type.String(),
        title: Type.String(),
        type: ShownChoice,
        status: ShownChoice,
      }),
    ),
  },
  { additionalProperties: Type.Unknown(), title: 'A whole item' },
)

/** Where an item is to be made: among the answers of a filter, and of which project and type where somebody chose. */
export const BirthAsked = Type.Object(
  {
    filter: Type.Unknown({ description: 'CQL2 JSON; choices by identity' }),
    project: Type.Optional(Type.String({ maxLength: 60 })),
    type: Type.Optional(Type.String({ maxLength: 60 })),
  },
  { additionalProperties: false, title: 'Where an item is to be made' },
)

export const BirthAnswer = answer('What makes a new item belong among answers', {
  projects: Type.Array(ShownChoice, { description: 'the projects it may be made in' }),
  types: Type.Array(ShownChoice, { description: 'the types it may have there' }),
  project: orNull(Type.String()),
  type: orNull(Type.String()),
  given: Type.Record(Type.String(), Type.Unknown(), {
    description: 'what a new item is given beside its title, custom fields under `fields`',
  }),
  takes: Type.Array(
    answer('A value it takes', {
      title: Type.String(),
      handle: Type.String(),
      value: Type.Unknown(),
    }),
  ),
  unmet: Type.Array(Type.String({ description: 'a clause that cannot be met' })),
  written: Type.Array(Type.String({ description: 'a clause that its title decides' })),
})

export type BirthAsked = Static<typeof BirthAsked>
export type BirthAnswer = Answer<typeof BirthAnswer>

export const AuthorAnswer = answer('Who did it', {
  kind: Type.String({ description: 'person, program, edition, import, bulk job or merge' }),
  id: orNull(Type.String()),
  title: Type.String(),
})

/** One thing that changed, in words, in pieces. */
export const HistoryLine = Type.Array(
  answer('A piece of a sentence', {
    text: Type.String(),
    value: Type.Optional(Type.Literal(true)),
  }),
)

export const VersionAnswer = answer('A state of an item', {
  from: Type.String(),
  to: orNull(Type.String()),
  by: AuthorAnswer,
  words: Type.Array(HistoryLine),
  state: Type.Unsafe<ItemAnswer>(
    Type.Record(Type.String(), Type.Unknown(), { description: 'the item as it was' }),
  ),
})

export const CommentAnswer = answer('A comment that was made', {
  id: Type.Integer(),
  body: Type.String({ description: 'what it says now; nothing where it was taken back' }),
  at: Type.String(),
  by: AuthorAnswer,
  earlier: Type.Array(answer('What it said before', { body: Type.String(), until: Type.String() })),
  takenBack: orNull(
    answer('By whom and when it was taken back', { at: Type.String(), by: AuthorAnswer }),
  ),
  mayChange: Type.Boolean({ description: 'whether the asker may say it otherwise' }),
  mayTakeBack: Type.Boolean(),
})
const CommentsAnswer = answer('Comments', { comments: Type.Array(CommentAnswer) })

export type WholeItemAnswer = Answer<typeof WholeItemAnswer> & Readonly<Record<string, unknown>>
export type AuthorAnswer = Answer<typeof AuthorAnswer>
export type VersionAnswer = Answer<typeof VersionAnswer>
export type CommentAnswer = Answer<typeof CommentAnswer>

export const workContracts = {
  'POST /items': { body: MakeItem, answer: WholeItemAnswer },
  'POST /items/born': { body: BirthAsked, answer: BirthAnswer },
  'GET /items/{code}/{number}': { answer: WholeItemAnswer },
  'PATCH /items/{code}/{number}': { body: EditItem, answer: WholeItemAnswer, mayBeMinimal: true },
  'DELETE /items/{code}/{number}': {},
  'GET /items/{code}/{number}/history': {
    answer: answer('What happened to an item', { versions: Type.Array(VersionAnswer) }),
  },
  'GET /items/{code}/{number}/comments': { answer: CommentsAnswer },
  'POST /items/{code}/{number}/comments': { body: MakeComment, answer: CommentsAnswer },
  'PATCH /items/{code}/{number}/comments/{comment}': { body: MakeComment, answer: CommentsAnswer },
  'DELETE /items/{code}/{number}/comments/{comment}': {},
  'GET /items/{code}/{number}/links': { answer: LinksAnswer },
  'POST /items/{code}/{number}/links': { body: NewLink, answer: LinksAnswer },
  'DELETE /items/{code}/{number}/links/{link}': {},
} satisfies Contracts
