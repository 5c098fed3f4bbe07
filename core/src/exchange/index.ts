export { unknownChoices, type UnknownChoice } from './unknown.ts'
export { cellOf, guardCell, joinNames, splitNames, unguardCell } from './cell.ts'
export { importable, proposeColumns, proposeDayOrder } from './columns.ts'
export { type ColumnTarget, type LinkKinds, linkColumnOf, linkTargets } from './linkColumn.ts'
export { type DayOrder, dayOrders, detectDayOrder, readDayAs } from './day.ts'
export { judgeLinks, type LinkGround, type RowLink } from './judgeLinks.ts'
export { parentsFirst, type RowGround, RowJudge, type RowOutcome } from './judgeRows.ts'
export { type CellProblem, type FileReading, readRow, type RowGiven } from './row.ts'
export {
  CarryOutImport,
  CheckImport,
  exchangeContracts,
  Export,
  type Format,
  type ImportAnswer,
  type ImportCheck,
  NewImport,
  type NewSubscription,
  type SubscriptionAnswer,
} from './schema.ts'
export { detectSeparator, type Separator, separators } from './separator.ts'
