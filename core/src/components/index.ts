export {
  type ComponentAnswer,
  componentContracts,
  ComponentChange,
  ComponentMerge,
  NewComponent,
} from './schema.ts'
