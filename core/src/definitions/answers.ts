import { Type } from 'typebox'
import { type Answer, answer, orNull, reference } from '../schema/index.ts'
import { filterForms } from '../queries/schema.ts'
import { DefinitionsDocument } from './document/document.ts'
import type { Clash } from './draft/merge.ts'
import type { MappingNeed } from './impact/mapping.ts'
import type { Named, Usage } from './impact/usage.ts'
import type { Problem } from './validate/problem.ts'

const path = Type.Array(Type.String())
const count = Type.Integer()
const texts = Type.Array(Type.String())

const NamedAnswer = Type.Unsafe<Named>(
  answer('Something that names it', { kind: Type.String(), ...reference }),
)

const ProblemAnswer = Type.Unsafe<Problem>(
  answer('What is wrong with a document', {
    pointer: Type.String(),
    message: Type.String(),
    expected: Type.Optional(Type.String()),
    found: Type.Optional(Type.String()),
  }),
)

const differences = Type.Array(
  answer('A difference', {
    path,
    before: Type.Optional(Type.Unknown()),
    after: Type.Optional(Type.Unknown()),
  }),
)
const ClashAnswer = Type.Unsafe<Clash>(
  answer('A part changed in two ways', { path, mine: differences, theirs: differences }),
)

const NeedAnswer = Type.Unsafe<MappingNeed>(
  answer('A value put out of use, and what it may become', {
    key: Type.String(),
    column: Type.String(),
    from: Type.String(),
    projects: texts,
    types: texts,
    items: count,
    choices: texts,
    mayEmpty: Type.Boolean(),
    needed: Type.Boolean(),
  }),
)

const change = {
  path,
  words: Type.String(),
  filter: Type.Optional(Type.Unknown({ description: 'its items; choices by identity' })),
  named: Type.Array(NamedAnswer),
  forms: Type.Array(Type.String(), { description: 'types whose forms have the field' }),
}

export const DraftChange = answer('A change of a draft', {
  ...change,
  sides: answer('A change by its two sides', {
    kind: Type.String(),
    title: Type.String(),
    part: Type.String({ description: 'empty for a whole entry' }),
    before: orNull(Type.String()),
    after: orNull(Type.String()),
  }),
  id: Type.String(),
  by: Type.String(),
  at: Type.String(),
  items: count,
  undoable: Type.Boolean(),
})

const draft = {
  ...reference,
  base: Type.Integer({ description: 'the edition it was begun on' }),
  etag: Type.String(),
  proposed: Type.Boolean(),
  shared: Type.Boolean({ description: 'whether others than its maker may open it' }),
  mine: Type.Boolean({ description: 'whether whoever asks began it' }),
  by: Type.String(),
  at: Type.String(),
}

/** A draft by what it is; `count` is of its changes. */
export const DraftSummary = answer('A draft by what it is', { ...draft, count })

export const DroppedDraft = answer('A draft that was dropped', {
  ...reference,
  count,
  by: Type.String(),
  at: Type.String(),
})

export const DraftAnswer = answer('A draft', {
  ...draft,
  mayPublish: Type.Boolean(),
  document: DefinitionsDocument,
  changes: Type.Array(DraftChange),
  problems: Type.Array(ProblemAnswer),
  clashes: Type.Array(ClashAnswer),
  needs: Type.Array(NeedAnswer),
  open: Type.Array(Type.String(), { description: 'questions that stop publishing' }),
  choices: Type.Record(Type.String(), orNull(Type.String())),
  boards: Type.Array(
    answer('A status placed on a board', { view: Type.String(), status: Type.String() }),
  ),
  touched: answer('What it touches', {
    items: count,
    clocks: Type.Optional(orNull(answer('Clocks it would begin', { running: count, late: count }))),
    named: Type.Unsafe<Readonly<Partial<Record<Named['kind'], number>>>>(
      Type.Record(Type.String(), count),
    ),
  }),
  schedule: orNull(
    answer('When it is published', { at: Type.String(), by: Type.String(), note: Type.String() }),
  ),
  failed: orNull(Type.String({ description: 'why publishing it at a set time failed' })),
})

export const ImpactAnswer = answer('What a draft touches', {
  changes: Type.Array(answer('What a change touches', { ...change, items: orNull(count) })),
  needs: Type.Array(NeedAnswer),
  items: count,
})

export const ReplayAnswer = answer('What a draft would have done to past moves', {
  days: count,
  moves: count,
  newly: count,
  refused: Type.Array(
    answer('Moves it would have refused', {
      type: Type.String(),
      from: Type.String(),
      to: Type.String(),
      why: Type.String(),
      words: Type.String(),
      moves: count,
      before: Type.Integer({ description: 'how many of them are refused today' }),
      items: count,
      refs: texts,
    }),
  ),
})

const edition = {
  number: Type.Integer(),
  note: Type.String(),
  published_at: Type.String(),
}
const by = orNull(Type.String())

export const EditionAnswer = answer('An edition', { ...edition, by, changes: texts })

export const CurrentAnswer = answer('The definitions in force', {
  edition: answer('The edition in force', { ...edition, by }),
  document: DefinitionsDocument,
  mapping: Type.Array(
    answer('Items that are still being changed', {
      edition: orNull(Type.Integer()),
      total: count,
      moved: count,
    }),
  ),
  keeps: Type.Array(Type.String(), { description: 'rulebooks one keeps' }),
})

export const DifferenceAnswer = answer('A difference in words', {
  path,
  words: Type.String(),
  before: Type.Unknown(),
  after: Type.Unknown(),
})

const LastChange = answer('The edition that changed it last', {
  edition: Type.Integer(),
  at: Type.String(),
  by,
  note: Type.String(),
})

export const UsageAnswer = answer('How much everything is used', {
  items: Type.Record(Type.String(), count),
  held: Type.Unsafe<Usage['held']>(
    Type.Array(
      answer('Items that hold a value', {
        column: Type.String(),
        project: Type.String(),
        type: Type.String(),
        value: Type.String(),
        items: count,
      }),
    ),
  ),
  named: Type.Record(Type.String(), Type.Array(NamedAnswer)),
  countedAgo: Type.Optional(Type.Integer({ description: 'seconds since it was counted' })),
  last: Type.Record(Type.String(), Type.String()),
  changed: Type.Record(Type.String(), LastChange),
})

export const BoardOfStatuses = answer('A board whose columns are statuses', {
  ...reference,
  columns: texts,
})

export const ScoreAnswer = answer('The order a score gives', {
  items: Type.Array(
    answer('An item with its score', {
      ref: Type.String(),
      title: Type.String(),
      score: orNull(Type.Union([Type.Number(), Type.String()])),
    }),
  ),
  without: count,
  errors: filterForms.errors,
})

export type DraftChange = Answer<typeof DraftChange>
export type DraftSummary = Answer<typeof DraftSummary>
export type DroppedDraft = Answer<typeof DroppedDraft>
export type DraftAnswer = Answer<typeof DraftAnswer>
export type ImpactAnswer = Answer<typeof ImpactAnswer>
export type ReplayAnswer = Answer<typeof ReplayAnswer>
export type EditionAnswer = Answer<typeof EditionAnswer>
export type CurrentAnswer = Answer<typeof CurrentAnswer>
export type DifferenceAnswer = Answer<typeof DifferenceAnswer>
export type LastChange = Answer<typeof LastChange>
export type UsageAnswer = Answer<typeof UsageAnswer>
export type BoardOfStatuses = Answer<typeof BoardOfStatuses>
export type ScoreAnswer = Answer<typeof ScoreAnswer>
