export { labelColours } from './colours.ts'
export {
  LabelAnswer,
  labelContracts,
  LabelChange,
  LabelLift,
  LabelMerge,
  NewLabel,
} from './schema.ts'
