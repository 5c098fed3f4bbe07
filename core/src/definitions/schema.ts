import { type Static, Type } from 'typebox'

const title = Type.String({ minLength: 1, maxLength: 120 })

const EditOf = Type.Object(
  {
    path: Type.Array(
      Type.String({ pattern: '^(?!__proto__$|constructor$|prototype$)', maxLength: 200 }),
      { minItems: 2, maxItems: 8 },
    ),
    after: Type.Optional(Type.Unknown()),
    before: Type.Optional(
      Type.Unknown({
        description:
          'what stood there when one looked, null for nothing; the edit is refused where something else stands there by now',
      }),
    ),
  },
  { additionalProperties: false },
)

const edits = Type.Array(EditOf, { maxItems: 2000 })
const shared = Type.Boolean({ description: 'false for a draft that only its maker may open' })

export const NewDraft = Type.Object(
  { title, edits: Type.Optional(edits), shared: Type.Optional(shared) },
  { additionalProperties: false, title: 'A new draft' },
)

export const Proposal = Type.Object(
  { title, edits: Type.Array(EditOf, { minItems: 1, maxItems: 20 }) },
  { additionalProperties: false, title: 'A proposal' },
)

export const DraftEdit = Type.Object(
  {
    title: Type.Optional(title),
    edits: Type.Optional(edits),
    choices: Type.Optional(Type.Record(Type.String(), Type.Union([Type.String(), Type.Null()]))),
    boards: Type.Optional(
      Type.Array(
        Type.Object(
          { view: Type.String(), status: Type.String() },
          { additionalProperties: false },
        ),
        { maxItems: 500 },
      ),
    ),
    publishAt: Type.Optional(Type.Null()),
    shared: Type.Optional(shared),
  },
  { additionalProperties: false, title: 'Edits of a draft' },
)

export const ClashChoice = Type.Object(
  { choices: Type.Record(Type.String(), Type.Enum(['mine', 'theirs'])) },
  { additionalProperties: false, title: 'What clashes become' },
)

export const Publishing = Type.Object(
  {
    note: Type.Optional(Type.String({ maxLength: 2000 })),
    at: Type.Optional(Type.String({ maxLength: 40 })),
  },
  { additionalProperties: false, title: 'Publishing' },
)

export const RulebookKeepers = Type.Object(
  {
    keepers: Type.Array(Type.String({ pattern: '^pe_[a-z0-9_]{1,40}$' }), {
      maxItems: 100,
      uniqueItems: true,
    }),
  },
  { additionalProperties: false, title: 'Keepers of a rulebook' },
)

export const Score = Type.Object(
  {
    formula: Type.String({ minLength: 1, maxLength: 1000 }),
    empty: Type.Optional(Type.Union([Type.Number(), Type.Null()])),
  },
  { additionalProperties: false, title: 'A score to look at' },
)

export type NewDraft = Static<typeof NewDraft>
export type Proposal = Static<typeof Proposal>
export type DraftEdit = Static<typeof DraftEdit>
export type ClashChoice = Static<typeof ClashChoice>
export type Publishing = Static<typeof Publishing>
export type RulebookKeepers = Static<typeof RulebookKeepers>
export type Score = Static<typeof Score>
