export * from './capacity.ts'
export * from './outcome.ts'
export * from './series.ts'
export * from './schema.ts'
