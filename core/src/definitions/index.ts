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
} from './change.ts'
export { apply, diff, type Difference } from './diff.ts'
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
} from './document.ts'
export { entryInWords, entryKinds, keyInWords, kindOfEntry, type EntryKind } from './entry.ts'
export { makeIdentity } from './identity.ts'
export {
  anyOf,
  clocksOf,
  impact,
  projectsOnLadder,
  projectsWithLimit,
  type Impact,
  type Touched,
} from './impact.ts'
export { judgeSuccession, succeed } from './keep.ts'
export {
  mapped,
  mappingNeeds,
  mappingsOf,
  openNeeds,
  type Mapping,
  type MappingChoices,
  type MappingNeed,
} from './mapping.ts'
export { merge, type Clash, type Merged } from './merge.ts'
export { namesIn } from './named.ts'
export { orderBetween, orderKeys } from './order.ts'
export { rebase, type ClashChoices } from './rebase.ts'
export { replacedIn } from './replaced.ts'
export { newlyRefused, replay, type PastMoves, type Refused, type Replayed } from './replay.ts'
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
} from './resolve.ts'
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
} from './rulebook.ts'
export { entriesInUse, giveBack, ownKeys, rulebookLike, say, takeOver } from './say.ts'
export { defaultValue } from './standard.ts'
export {
  holding,
  noUsage,
  type Holding,
  type MappedColumn,
  type Named,
  type Usage,
} from './usage.ts'
export { typeOfField, vocabularyOf, type Living } from './vocabulary.ts'
export { validate, type Problem } from './validate.ts'
export { inWords } from './words.ts'
