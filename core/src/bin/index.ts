export { binContracts, type BinItem, BringBack } from './schema.ts'
