import type { ArithmeticOp, ArrayOp, At, CompareOp, TemporalOp } from './tree.ts'

/** What kind of thing a choice names. The options of a custom field are a domain of their own: `option:` and the field's identity. */
export type Domain =
  | 'project'
  | 'type'
  | 'status'
  | 'phase'
  | 'priority'
  | 'person'
  | 'iteration'
  | 'release'
  | 'item'
  | 'label'
  | 'component'
  | 'linkKind'
  | 'family'
  | 'team'
  | 'limit'
  | `option:${string}`

export type Type =
  | { readonly kind: 'number' | 'text' | 'boolean' | 'date' | 'timestamp' | 'interval' }
  | { readonly kind: 'choice'; readonly domain: Domain }
  | { readonly kind: 'array'; readonly domain: Domain }

/**
 * With what a value can change although nobody touches it; decides how a course over time is computed.
 * A roll-up changes with what stands below (`below`), other looks at relatives with any of them (`kin`).
 */
export type ChangesWith = 'own' | 'below' | 'clock' | 'kin' | 'asker' | 'definition'

export interface Property {
  readonly handle: string
  readonly title: string
  readonly type: Type
  readonly changesWith: readonly ChangesWith[]
  /** whether an item may lack it; a property that is always there is never what makes a filter unknown */
  readonly nullable: boolean
  readonly builtIn: boolean
  /** whether it is text of several lines */
  readonly long?: true
  /** only for ordering, never in a condition */
  readonly orderOnly?: boolean
  /** the identity of the time limit whose hours left it tells in lists; a condition asks for them by `limit_left` */
  readonly leftOf?: string
  /** how it is computed, where items do not hold it */
  readonly computed?: Computed
}

/** A score is arithmetic over numbers of the item, an empty one counting as `empty` (null: then there is no score). A roll-up looks at everything below. */
export type Computed =
  | { readonly kind: 'score'; readonly value: Value; readonly empty: number | null }
  | {
      readonly kind: 'roll-up'
      readonly how: 'sum' | 'least' | 'greatest' | 'share done'
      readonly of: Property | null
    }

/** A literal with its meaning: numbers as decimal text, choices by identity. */
export interface Literal {
  readonly kind: 'literal'
  readonly type: Type
  readonly value: string | boolean
  /** a label inside `has_label(family, label)` is spelled without its family */
  readonly own?: true
  readonly at: At
}

export type Value =
  | Literal
  | {
      readonly kind: 'property'
      readonly property: Property
      readonly ofParent: boolean
      readonly type: Type
      readonly at: At
    }
  | {
      readonly kind: 'interval'
      readonly start: Value | null
      readonly end: Value | null
      readonly type: Type
      readonly at: At
    }
  | {
      readonly kind: 'list'
      readonly items: readonly Value[]
      readonly type: Type
      readonly at: At
    }
  | {
      readonly kind: 'arithmetic'
      readonly op: ArithmeticOp
      readonly left: Value
      readonly right: Value
      readonly type: Type
      readonly at: At
    }
  | {
      readonly kind: 'fold'
      readonly fold: 'casei' | 'accenti'
      readonly value: Value
      readonly type: Type
      readonly at: At
    }
  | CheckedCall

export interface CheckedCall {
  readonly kind: 'call'
  /** one of the table of functions */
  readonly name: string
  readonly args: readonly Value[]
  readonly type: Type
  readonly at: At
}

/** A filter whose every name is known and whose every comparison makes sense. Only such a filter is ever run. */
export type Condition =
  | { readonly kind: 'and' | 'or'; readonly args: readonly Condition[]; readonly at: At }
  | { readonly kind: 'not'; readonly arg: Condition; readonly at: At }
  | { readonly kind: 'truth'; readonly value: boolean; readonly at: At }
  | {
      readonly kind: 'compare'
      readonly op: CompareOp
      readonly left: Value
      readonly right: Value
      readonly at: At
    }
  | { readonly kind: 'like'; readonly value: Value; readonly pattern: Value; readonly at: At }
  | {
      readonly kind: 'between'
      readonly value: Value
      readonly low: Value
      readonly high: Value
      readonly at: At
    }
  | { readonly kind: 'in'; readonly value: Value; readonly list: readonly Value[]; readonly at: At }
  | { readonly kind: 'isNull'; readonly value: Value; readonly at: At }
  | {
      readonly kind: 'array'
      readonly op: ArrayOp
      readonly left: Value
      readonly right: Value
      readonly at: At
    }
  | {
      readonly kind: 'temporal'
      readonly op: TemporalOp
      readonly left: Value
      readonly right: Value
      readonly at: At
    }
  | CheckedCall

export const everything: Condition = { kind: 'truth', value: true, at: { from: 0, to: 0 } }

/** All values of a condition, outermost first. */
export function valuesOf(condition: Condition): readonly Value[] {
  switch (condition.kind) {
    case 'and':
    case 'or':
      return condition.args.flatMap(valuesOf)
    case 'not':
      return valuesOf(condition.arg)
    case 'truth':
      return []
    case 'compare':
    case 'array':
    case 'temporal':
      return [condition.left, condition.right].flatMap(within)
    case 'like':
      return [condition.value, condition.pattern].flatMap(within)
    case 'between':
      return [condition.value, condition.low, condition.high].flatMap(within)
    case 'in':
      return [condition.value, ...condition.list].flatMap(within)
    case 'isNull':
      return within(condition.value)
    case 'call':
      return within(condition)
  }
}

function within(value: Value): Value[] {
  switch (value.kind) {
    case 'literal':
    case 'property':
      return [value]
    case 'interval':
      return [value, ...[value.start, value.end].flatMap((end) => (end ? within(end) : []))]
    case 'list':
      return [value, ...value.items.flatMap(within)]
    case 'arithmetic':
      return [value, ...within(value.left), ...within(value.right)]
    case 'fold':
      return [value, ...within(value.value)]
    case 'call':
      return [value, ...value.args.flatMap(within)]
  }
}

/** With what the answers of a condition can change; `own` alone means that the item's own states tell all. */
export function changesWith(
  condition: Condition,
  ofFunction: (call: CheckedCall) => readonly ChangesWith[],
): ReadonlySet<ChangesWith> {
  const all = valuesOf(condition).flatMap((value) => {
    if (value.kind === 'call') return ofFunction(value)
    if (value.kind === 'property')
      return value.ofParent ? ['kin' as const] : value.property.changesWith
    return []
  })
  return new Set(all)
}
