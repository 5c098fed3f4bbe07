export * from './outline.ts'
export * from './sums.ts'
export * from './schema.ts'
