export { changeFor } from './change.ts'
export { type BulkCounts, mostNamed, previewBulk, reasonOf, Refusals } from './preview.ts'
export {
  type BulkAnswer,
  BulkChange,
  bulkContracts,
  type BulkItems,
  BulkPreview,
  type BulkPreviewAnswer,
  type BulkRefusal,
  NewBulk,
} from './schema.ts'
export { bulkInWords } from './words.ts'
