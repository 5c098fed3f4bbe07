export * from './lines.ts'
export * from './filing.ts'
export * from './schema.ts'
