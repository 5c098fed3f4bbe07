/** Where a node stands in the text it was read from: UTF-16 units, `from` included, `to` not; in JSON, by its pointer. */
export interface At {
  readonly from: number
  readonly to: number
  readonly pointer?: string
}

export const compareOps = ['=', '<>', '<', '>', '<=', '>='] as const
export type CompareOp = (typeof compareOps)[number]

/** Array operators by their JSON name; the text name is the same in any case (`A_CONTAINEDBY`). */
export const arrayOps = ['a_equals', 'a_contains', 'a_containedBy', 'a_overlaps'] as const
export type ArrayOp = (typeof arrayOps)[number]

/** Temporal operators by their JSON name. */
export const temporalOps = [
  't_after',
  't_before',
  't_contains',
  't_disjoint',
  't_during',
  't_equals',
  't_finishedBy',
  't_finishes',
  't_intersects',
  't_meets',
  't_metBy',
  't_overlappedBy',
  't_overlaps',
  't_startedBy',
  't_starts',
] as const
export type TemporalOp = (typeof temporalOps)[number]

/** The temporal operators that take instants as well as intervals. */
export const instantOps: readonly TemporalOp[] = [
  't_after',
  't_before',
  't_disjoint',
  't_equals',
  't_intersects',
]

export const arithmeticOps = ['+', '-', '*', '/', '%', 'div', '^'] as const
export type ArithmeticOp = (typeof arithmeticOps)[number]

/** A scalar of the tree as parsed: nothing is known yet of what its names mean. Numbers keep their decimal text. */
export type Scalar =
  | { readonly kind: 'property'; readonly name: string; readonly at: At }
  | { readonly kind: 'text'; readonly value: string; readonly at: At }
  | { readonly kind: 'number'; readonly value: string; readonly at: At }
  | { readonly kind: 'boolean'; readonly value: boolean; readonly at: At }
  | { readonly kind: 'date'; readonly value: string; readonly at: At }
  | { readonly kind: 'timestamp'; readonly value: string; readonly at: At }
  | {
      readonly kind: 'interval'
      readonly start: Scalar | null
      readonly end: Scalar | null
      readonly at: At
    }
  | { readonly kind: 'array'; readonly items: readonly Scalar[]; readonly at: At }
  | {
      readonly kind: 'arithmetic'
      readonly op: ArithmeticOp
      readonly left: Scalar
      readonly right: Scalar
      readonly at: At
    }
  | {
      readonly kind: 'fold'
      readonly fold: 'casei' | 'accenti'
      readonly value: Scalar
      readonly at: At
    }
  | Call
  | { readonly kind: 'condition'; readonly filter: Filter; readonly at: At }

export interface Call {
  readonly kind: 'call'
  readonly name: string
  readonly args: readonly Scalar[]
  readonly at: At
  readonly nameAt: At
}

/** A filter as parsed: a tree of frozen shape that text, JSON and sentence are printed from. */
export type Filter =
  | { readonly kind: 'and' | 'or'; readonly args: readonly Filter[]; readonly at: At }
  | { readonly kind: 'not'; readonly arg: Filter; readonly at: At }
  | { readonly kind: 'truth'; readonly value: boolean; readonly at: At }
  | {
      readonly kind: 'compare'
      readonly op: CompareOp
      readonly left: Scalar
      readonly right: Scalar
      readonly at: At
    }
  | { readonly kind: 'like'; readonly value: Scalar; readonly pattern: Scalar; readonly at: At }
  | {
      readonly kind: 'between'
      readonly value: Scalar
      readonly low: Scalar
      readonly high: Scalar
      readonly at: At
    }
  | {
      readonly kind: 'in'
      readonly value: Scalar
      readonly list: readonly Scalar[]
      readonly at: At
    }
  | { readonly kind: 'isNull'; readonly value: Scalar; readonly at: At }
  | {
      readonly kind: 'array'
      readonly op: ArrayOp
      readonly left: Scalar
      readonly right: Scalar
      readonly at: At
    }
  | {
      readonly kind: 'temporal'
      readonly op: TemporalOp
      readonly left: Scalar
      readonly right: Scalar
      readonly at: At
    }
  | Call

/** One thing wrong with a query, said for the person who wrote it. */
export interface QueryError extends At {
  readonly message: string
  readonly expected?: string
  readonly found?: string
  /** the nearest valid spelling, ready to stand in place of what was found */
  readonly nearest?: string
}

export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly errors: readonly QueryError[] }

/** Bounds past which a query is refused instead of run. */
export const bounds = {
  depth: 64,
  /** UTF-16 units, of at most 3 bytes in UTF-8 each: never over 64 kB */
  length: 20_000,
  list: 2_000,
  members: 10_000,
  nodes: 5_000,
  errors: 20,
} as const
