import type { Chosen, Item } from '../api/types.ts'

export interface Stand {
  readonly value: string | null
  readonly count: number
  readonly shown: Chosen | null
}

/** A column of a board, with its first cards. */
export interface BoardColumn extends Stand {
  readonly cards: readonly Item[]
}

/** What the server says of an arranged view: for a list its groups, for a board its columns and what stands elsewhere. */
export interface Arranged {
  readonly filter: unknown
  readonly total: number
  readonly cannotTell: number
  readonly groups?: readonly Stand[] | null
  readonly columns?: readonly BoardColumn[]
  readonly elsewhere: readonly Stand[]
  readonly shown?: number
  readonly finishedLongAgo: number
  readonly finishedBefore: string | null
}
