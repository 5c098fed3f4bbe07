export { actInWords, type ActLine } from './words.ts'
export { type ActAnswer, auditContracts } from './schema.ts'
