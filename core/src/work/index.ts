export { whyNotJoined } from './joining.ts'
export { changeInWords, commentChanged, showHeld, type HistoryWords } from './history.ts'
export { refuseMove, type MoveRefusal } from './move.ts'
export { article, listed } from '../language/listed.ts'
export {
  type AuthorAnswer,
  type BirthAnswer,
  type BirthAsked,
  type CommentAnswer,
  EditItem,
  givenHandles,
  type LinkAnswer,
  MakeComment,
  MakeItem,
  NewLink,
  type VersionAnswer,
  type WholeItemAnswer,
  workContracts,
} from './schema.ts'
export { isShown, type ShownWhen } from '../definitions/rulebook/shown.ts'
export { cleanText, readValue, type ReadValue, type Rules } from './value.ts'
export {
  fieldTitle,
  requirementInWords,
  unmet,
  unmetInWords,
  type Entering,
  type Unmet,
} from '../definitions/rulebook/requirement.ts'
export { readComment } from './comment.ts'
export { namedIn, type Nameable, type Named } from './mentions.ts'
export {
  added,
  judgeEdit,
  judgeEdits,
  type ChangeOf,
  type ItemChange,
  type Judged,
} from './edit.ts'
export { besidesMoving, type Moving } from './moving.ts'
export { enteringOf, flowFor, missingFor } from './entering.ts'
export { Ground, type Below, type KnownItems, type Past, type Relative } from './ground.ts'
export { judgeNew, plainItem, type JudgedNew } from './making.ts'
export { type Refusal, type WrongPart } from './refusal.ts'
export { type ActingPerson, type OwnedComponent, type OwnedLabel, type WorkRules } from './rules.ts'
export { undo, type Undone } from './undo.ts'
export { sameValue } from './sameValue.ts'
