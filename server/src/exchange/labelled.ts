/** What a calendar and a feed say about themselves. */
export interface Labelled {
  readonly title: string
  /** where an item is read, by its ref */
  readonly addressOf: (ref: string) => string
  /** the host that makes identities those of this workspace */
  readonly host: string
  /** whose it is */
  readonly workspace: string
  readonly now: Date
}
