export { cellFilter } from './cell.ts'
export { differenceToBefore, differenceWords, meetsTarget, targetWords } from './comparison.ts'
export { course, runningSums, type Bucket, type Counted } from './course.ts'
export { mean, percentile } from './percentile.ts'
export {
  DashboardContent,
  dashboardContracts,
  Evaluate,
  Figure,
  fieldFigures,
  MeasureContent,
  Over,
  stateFigures,
  Widget,
  type FigureKind,
  type Key,
  type MeasureAnswer,
  type SavedDashboard,
  type SavedMeasure,
} from './schema.ts'
export { statisticOf } from './statistic.ts'
export { widgetKind, widgetKinds, type WidgetKind, type WidgetKindEntry } from './widgetKinds.ts'
