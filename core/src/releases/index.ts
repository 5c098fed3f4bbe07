export * from './schema.ts'
