export { arrange, finishedBefore, notShown, type Arrangement, type Standing } from './board.ts'
export { bornMatching, clausesOf, handlesOf, meets, type BirthPlace, type Born } from './born.ts'
export { cardFields, columnFilter } from './cards.ts'
export {
  type ArrangedBoard,
  type ArrangedList,
  Board,
  type ColumnAnswer,
  type SavedView,
  type StandingAnswer,
  ViewContent,
  viewContracts,
} from './schema.ts'
export { sortText } from './sortText.ts'
