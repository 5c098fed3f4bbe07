export { changeInWords, showHeld, type HistoryWords } from './history.ts'
export { refuseMove, type MoveRefusal } from './move.ts'
export { article, listed } from '../language/listed.ts'
export { EditItem, givenHandles, MakeComment, MakeItem } from './schema.ts'
export { isShown, type ShownWhen } from '../definitions/rulebook/shown.ts'
export { cleanText, readValue, type ReadValue, type Rules } from './value.ts'
export { allowanceOf, clockOf, type Allowed, type Clock, type ClockState } from './limit.ts'
export {
  fieldTitle,
  requirementInWords,
  unmet,
  unmetInWords,
  type Entering,
  type Unmet,
} from '../definitions/rulebook/requirement.ts'
