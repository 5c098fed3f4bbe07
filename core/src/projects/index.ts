export {
  type FormEntry,
  NewProject,
  type OfferedTemplate,
  type OfferedType,
  type OffersAnswer,
  type ProjectAnswer,
  ProjectChange,
  projectContracts,
} from './schema.ts'
