export { savedKinds, savedSchemas, SavedUsage, type SavedKind, type SavedThing } from './schema.ts'
