/** A column of a long ledger: what stands in it is the slot of its key. */
export interface LongColumn<Row> {
  readonly key: string
  readonly header: string
  readonly isNumber?: boolean
  /** its head is read, but not seen */
  readonly isAct?: boolean
  readonly class?: string
  /** by what it orders the rows; without it it orders nothing */
  readonly by?: (row: Row) => string | number
}
