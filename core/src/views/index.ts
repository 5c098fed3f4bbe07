export { arrange, finishedBefore, notShown, type Arrangement, type Standing } from './board.ts'
export { cardFields, columnFilter } from './cards.ts'
export { Board, Order, QueryContent, ViewContent } from './schema.ts'
export { sortText } from './sortText.ts'
