export { arrange, finishedBefore, notShown, type Arrangement, type Standing } from './board.ts'
export { Board, Order, QueryContent, ViewContent } from './schema.ts'
