export { NewLabel, LabelChange, LabelMerge, LabelLift } from './schema.ts'
