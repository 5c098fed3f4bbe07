export { Merge, mergeContracts } from './schema.ts'
export { heldBefore } from './heldBefore.ts'
