export { type ActAnswer, auditContracts } from './schema.ts'
