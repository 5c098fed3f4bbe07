export { cellFilter } from './cell.ts'
export { course, runningSums, type Bucket, type Counted } from './course.ts'
export { mean, percentile } from './percentile.ts'
export {
  DashboardContent,
  Evaluate,
  Figure,
  fieldFigures,
  MeasureContent,
  Over,
  stateFigures,
  Widget,
  widgetKinds,
  type FigureKind,
  type Key,
  type MeasureAnswer,
} from './schema.ts'
