export {
  addEdit,
  addEdits,
  changedSince,
  fold,
  overtaken,
  replaceAt,
  restingOn,
  same,
  valueAt,
  type Change,
  type Edit,
} from './draft/change.ts'
export { apply, diff, type Difference } from './draft/diff.ts'
export { DefinitionsDocument, emptyDocument } from './document/document.ts'
export type { Requirement, Rulebook, RulebookEntry, TimeLimit } from './document/rules.ts'
export type {
  Family,
  Field,
  ItemType,
  Ladder,
  LinkKind,
  Option,
  Priority,
  RollUp,
  Status,
} from './document/entries.ts'
export { prefixes, sectionAt, sections, sectionWords, type Section } from './document/sections.ts'
export { inOrder, type Ordered } from './document/ordered.ts'
export {
  estimateUnits,
  type FieldKind,
  fieldKind,
  fieldKinds,
  type FieldPart,
  fieldParts,
  type FieldValues,
  hasPart,
  holdsSeveral,
  isComputed,
  requiredRoles,
  rollUps,
} from './document/fieldKinds.ts'
export { entryKinds, kindOfEntry, type EntryKind } from './document/entryKinds.ts'
export { entryInWords, keyInWords } from './words/entry.ts'
export { sidesOf, type Sides } from './words/sides.ts'
export { makeIdentity } from './document/identity.ts'
export { impact, type Impact, type Touched } from './impact/impact.ts'
export { clocksOf } from './impact/clocks.ts'
export { projectsOnLadder, projectsWithLimit } from './impact/reach.ts'
export { anyOf, operationOf } from './impact/filters.ts'
export { judgeSuccession, succeed } from './validate/succession.ts'
export {
  mapped,
  mappingNeeds,
  mappingsOf,
  openNeeds,
  type Mapping,
  type MappingChoices,
  type MappingNeed,
} from './impact/mapping.ts'
export { merge, type Clash, type Merged } from './draft/merge.ts'
export { namesIn } from './document/named.ts'
export { handleFor } from './document/handle.ts'
export { orderBetween, orderKeys } from './document/order.ts'
export { rebase, type ClashChoices } from './draft/rebase.ts'
export { replacedIn } from './document/replaced.ts'
export {
  newlyRefused,
  replay,
  type PastMoves,
  type Refused,
  type Replayed,
} from './impact/replay.ts'
export {
  chainOf,
  compare,
  entriesOf,
  projectsReached,
  resolve,
  restingRulebooks,
  type Compared,
  type Origin,
  type ResolvedEntry,
} from './rulebook/resolve.ts'
export {
  defaultPriority,
  flowOf,
  formOf,
  ladderOf,
  lastPlace,
  placeAmong,
  mayStandBelow,
  movesFrom,
  offeredOf,
  rungsOf,
  typesOf,
  unitOf,
  type Flow,
  type FormField,
} from './rulebook/rulebook.ts'
export {
  addSection,
  fieldsIn,
  moveField,
  moveSection,
  renameSection,
  sectionsOf,
  type FormSection,
} from './rulebook/sections.ts'
export { entriesInUse, giveBack, ownKeys, rulebookLike, setEntry, takeOver } from './draft/say.ts'
export { defaultValue } from './document/standard.ts'
export {
  holding,
  noUsage,
  type Holding,
  type MappedColumn,
  type Named,
  type Usage,
} from './impact/usage.ts'
export { typeOfField, vocabularyOf } from '../vocabulary/vocabularyOf.ts'
export type { Living } from '../vocabulary/living.ts'
export { validate } from './validate/validate.ts'
export type { Problem } from './validate/problem.ts'
export { inWords } from './words/words.ts'
export {
  NewDraft,
  Proposal,
  DraftEdit,
  ClashChoice,
  Publishing,
  RulebookKeepers,
  Score,
} from './schema.ts'
export { definitionContracts } from './contract.ts'
export type {
  BoardOfStatuses,
  CurrentAnswer,
  DifferenceAnswer,
  DraftAnswer,
  DraftChange,
  DraftSummary,
  DroppedDraft,
  EditionAnswer,
  ImpactAnswer,
  LastChange,
  ReplayAnswer,
  ScoreAnswer,
  UsageAnswer,
} from './answers.ts'
