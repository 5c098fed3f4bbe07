import { Type } from 'typebox'
import { answer, type Contracts, orNull, reference } from '../schema/index.ts'
import {
  BoardOfStatuses,
  CurrentAnswer,
  DifferenceAnswer,
  DraftAnswer,
  DraftSummary,
  DroppedDraft,
  EditionAnswer,
  ImpactAnswer,
  ReplayAnswer,
  ScoreAnswer,
  UsageAnswer,
} from './answers.ts'
import { DefinitionsDocument } from './document/document.ts'
import {
  ClashChoice,
  DraftEdit,
  NewDraft,
  Proposal,
  Publishing,
  RulebookKeepers,
  Score,
} from './schema.ts'

const daysBack = Type.Partial(
  Type.Object({ days: Type.String({ description: 'how many days back to look' }) }),
)

const Keepers = answer('Who keeps a rulebook', {
  keepers: Type.Array(answer('A keeper', reference)),
})

/** A file of definitions is judged in full where it is read: it may hold a whole document or one rulebook. */
const File = Type.Unknown({ description: 'a document of definitions, or one rulebook' })

const draftContracts = {
  'GET /definitions/drafts': {
    answer: answer('The open drafts', { drafts: Type.Array(DraftSummary) }),
  },
  'POST /definitions/drafts': { body: NewDraft, answer: DraftAnswer },
  'POST /definitions/proposals': { body: Proposal, answer: DraftAnswer },
  'GET /definitions/dropped-drafts': {
    answer: answer('The dropped drafts', { drafts: Type.Array(DroppedDraft) }),
  },
  'POST /definitions/dropped-drafts/{id}/take-back': { answer: DraftAnswer },
  'GET /definitions/drafts/{id}': { answer: DraftAnswer },
  'PATCH /definitions/drafts/{id}': { body: DraftEdit, answer: DraftAnswer },
  'DELETE /definitions/drafts/{id}': {},
  'POST /definitions/drafts/{id}/rebase': { body: ClashChoice, answer: DraftAnswer },
  'DELETE /definitions/drafts/{id}/changes/{change}': { answer: DraftAnswer },
  'GET /definitions/drafts/{id}/impact': { answer: ImpactAnswer },
  'GET /definitions/drafts/{id}/replay': { query: daysBack, answer: ReplayAnswer },
  'POST /definitions/drafts/{id}/publish': {
    body: Publishing,
    answer: Type.Union([
      answer('Published', {
        edition: Type.Integer(),
        mapping: Type.Integer({ description: 'items that a job still changes' }),
      }),
      DraftAnswer,
    ]),
  },
} satisfies Contracts

const editionContracts = {
  'GET /definitions': { answer: CurrentAnswer },
  'GET /definitions/file': { answer: DefinitionsDocument },
  'GET /definitions/editions': {
    answer: answer('Every edition', { editions: Type.Array(EditionAnswer) }),
  },
  'GET /definitions/editions/{number}': {
    answer: answer('An edition with its document', {
      number: Type.Integer(),
      note: Type.String(),
      published_at: Type.String(),
      changes: Type.Array(Type.String()),
      document: DefinitionsDocument,
    }),
  },
  'GET /definitions/editions/{number}/compare/{to}': {
    answer: answer('What is different', {
      from: Type.Integer(),
      to: Type.Integer(),
      changes: Type.Array(DifferenceAnswer),
    }),
  },
  'POST /definitions/editions/{number}/draft': { answer: DraftAnswer },
  'GET /definitions/rulebooks/{id}': {
    answer: answer('A rulebook as a file', {
      format: Type.Literal(1),
      rulebook: Type.String(),
      definitions: Type.Partial(DefinitionsDocument),
    }),
  },
  'POST /definitions/differences': {
    body: File,
    answer: answer('What a file would change', { changes: Type.Array(DifferenceAnswer) }),
  },
  'POST /definitions/import': {
    body: File,
    answer: answer('What a file changes', {
      draft: orNull(DraftAnswer),
      changes: Type.Integer(),
    }),
  },
} satisfies Contracts

export const definitionContracts = {
  ...draftContracts,
  ...editionContracts,
  'GET /definitions/usage': {
    query: Type.Partial(
      Type.Object({ options: Type.String({ description: 'a field whose options are counted' }) }),
    ),
    answer: UsageAnswer,
  },
  'GET /definitions/moves/{type}': {
    query: daysBack,
    answer: answer('Moves made', { moves: Type.Record(Type.String(), Type.Integer()) }),
  },
  'GET /definitions/boards': {
    answer: answer('Boards of statuses', {
      boards: Type.Array(BoardOfStatuses),
      unplaced: Type.Array(Type.String()),
    }),
  },
  'POST /definitions/scores/preview': { body: Score, answer: ScoreAnswer },
  'GET /definitions/rulebooks/{id}/keepers': { answer: Keepers },
  'PATCH /definitions/rulebooks/{id}/keepers': { body: RulebookKeepers, answer: Keepers },
} satisfies Contracts
