export { changeInWords, showHeld, type Said } from './history.ts'
export { listed, refuseMove, type MoveRefusal } from './move.ts'
export { EditItem, MakeComment, MakeItem } from './schema.ts'
export { cleanText, readValue, type Reading, type Rules } from './value.ts'
