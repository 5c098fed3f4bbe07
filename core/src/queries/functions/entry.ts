import type { CheckedCall, Condition, Value, ChangesWith, Domain, Type } from '../tree/checked.ts'
import type { Result } from '../values/result.ts'
import type { Facts, ItemState, Moment } from '../tree/facts.ts'
import type { Truth } from '../values/truth.ts'

/** What may stand as an argument. `held` is a literal of the kind of the property that is the first argument. */
export type Parameter =
  | {
      readonly kind: 'whole'
      readonly name: string
      /** how far it may lie from 0 */ readonly most: number
    }
  | { readonly kind: 'choice'; readonly name: string; readonly domain: Domain }
  | { readonly kind: 'label'; readonly name: string }
  | { readonly kind: 'words'; readonly name: string }
  | { readonly kind: 'teams'; readonly name: string }
  | { readonly kind: 'property'; readonly name: string }
  | { readonly kind: 'held'; readonly name: string }
  | { readonly kind: 'interval'; readonly name: string }

/** What a function is computed from: the states of one item, the last of them the one asked about. */
export interface Caller {
  readonly states: readonly ItemState[]
  readonly facts: Facts
  readonly moment: Moment
  readonly today: string
  readonly value: (value: Value) => Result
  readonly truth: (condition: Condition) => Truth
}

export type Evaluator = (caller: Caller, call: CheckedCall) => Result

export interface FunctionEntry {
  /** the ways it can be called, shortest first */
  readonly forms: readonly (readonly Parameter[])[]
  readonly result: Type
  readonly changesWith: readonly ChangesWith[]
  /** whether it may be empty for an item */
  readonly nullable: boolean
  /** what it gives, in words; `$1` … are its arguments in words, `$*` all of them */
  readonly sentence: string
  /** words for a whole argument near 0, of a period before, now and after; further off it is counted in `unit` */
  readonly near?: {
    readonly words: readonly [before: string, now: string, after: string]
    readonly unit: string
  }
  /** the property of the item that it looks at, where its arguments do not name one */
  readonly looksAt?: string
  /** whether the remits of the teams that its argument names say the same */
  readonly isRemit?: true
  readonly doc: string
  /** what it gives for an item, from the item's own states */
  readonly value: Evaluator
}

type PropertyValue = Extract<Value, { kind: 'property' }>

/** The text of an argument that is a literal: a whole number, the identity of a choice, words. */
export function literalIn({ name, args }: CheckedCall, place: number): string {
  const value = args[place]
  if (value?.kind === 'literal') return String(value.value)
  throw new Error(`${name}() has no literal as argument ${place + 1}`)
}

/** The property that a function looks at: its first argument. */
export function propertyIn({ name, args }: CheckedCall): PropertyValue {
  const [value] = args
  if (value?.kind === 'property') return value
  throw new Error(`${name}() looks at no property`)
}
