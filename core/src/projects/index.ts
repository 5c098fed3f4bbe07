export { NewProject, ProjectChange } from './schema.ts'
