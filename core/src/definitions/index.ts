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
export {
  DefinitionsDocument,
  emptyDocument,
  estimateUnits,
  fieldKinds,
  inOrder,
  isComputed,
  prefixes,
  requiredRoles,
  rollUps,
  sections,
  sectionWords,
  type Family,
  type Field,
  type FieldKind,
  type ItemType,
  type Ladder,
  type LinkKind,
  type Option,
  type Ordered,
  type Priority,
  type Requirement,
  type RollUp,
  type Rulebook,
  type RulebookEntry,
  type Section,
  type Status,
  type TimeLimit,
} from './document/document.ts'
export { entryInWords, entryKinds, keyInWords, kindOfEntry, type EntryKind } from './words/entry.ts'
export { makeIdentity } from './document/identity.ts'
export {
  anyOf,
  clocksOf,
  impact,
  projectsOnLadder,
  projectsWithLimit,
  type Impact,
  type Touched,
} from './impact/impact.ts'
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
  mayStandBelow,
  movesFrom,
  offeredOf,
  rungsOf,
  typesOf,
  unitOf,
  type Flow,
  type FormField,
} from './rulebook/rulebook.ts'
export { entriesInUse, giveBack, ownKeys, rulebookLike, say, takeOver } from './draft/say.ts'
export { defaultValue } from './document/standard.ts'
export {
  holding,
  noUsage,
  type Holding,
  type MappedColumn,
  type Named,
  type Usage,
} from './impact/usage.ts'
export { typeOfField, vocabularyOf, type Living } from '../vocabulary/vocabularyOf.ts'
export { validate, type Problem } from './validate/validate.ts'
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
