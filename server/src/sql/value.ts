import { functionSql, type IntervalFunction, intervalOf, isInterval } from './functions.ts'
import { instantOf } from '@bluestem/core/calendar'
import { asText } from '@bluestem/core/known'
import {
  accenti,
  casei,
  type Condition,
  constantOf,
  isSameForAll,
  type Property,
  type Value,
} from '@bluestem/core/queries'
import { valueMayBeEmpty } from './unknown.ts'
import { arithmeticSql, propertySql } from './property.ts'
import type { IntervalEnd, ItemCompiler } from './itemCompiler.ts'
import { type Binds, permitted, type QueryContext } from './statement.ts'

/** Turns the values of a condition into expressions over the columns of an item. */
export abstract class ValueCompiler implements ItemCompiler {
  abstract condition(condition: Condition): string
  readonly queryContext: QueryContext
  readonly binds: Binds
  readonly alias: string

  constructor(queryContext: QueryContext, binds: Binds, alias: string) {
    this.queryContext = queryContext
    this.binds = binds
    this.alias = alias
  }

  value(value: Value): string {
    switch (value.kind) {
      case 'literal':
        return this.literal(value)
      case 'property':
        return value.ofParent
          ? this.parents(value.property)
          : propertySql(this.queryContext, this.binds, value.property, this.alias)
      case 'interval':
        throw new Error('an interval has no expression of its own')
      case 'list':
        return value.items.length === 0
          ? `'{}'::int[]`
          : `ARRAY[${value.items.map((item) => this.value(item)).join(', ')}]::int[]`
      case 'arithmetic':
        return this.arithmetic(value)
      case 'fold':
        return value.value.kind === 'literal'
          ? this.text((value.fold === 'casei' ? casei : accenti)(String(value.value.value)))
          : `${value.fold}(${this.value(value.value)})`
      case 'call':
        return functionSql(value.name)(this, value)
    }
  }

  protected text(text: string): string {
    return `${this.binds.bind(text, 'text')} COLLATE "C"`
  }

  protected literal(value: Extract<Value, { kind: 'literal' }>): string {
    const { type } = value
    switch (type.kind) {
      case 'number':
        return this.binds.bind(value.value, 'numeric')
      case 'text':
        return this.text(String(value.value))
      case 'boolean':
        return this.binds.bind(value.value, 'boolean')
      case 'date':
        return this.binds.bind(value.value, 'date')
      case 'timestamp':
        return this.binds.instant(instantOf(String(value.value)))
      case 'choice':
        return type.domain === 'item'
          ? this.item(String(value.value))
          : this.binds.bind(
              this.queryContext.world.numbers.of(type.domain, String(value.value)) ?? -1,
              'int',
            )
      default:
        throw new Error(`no literal is of kind ${type.kind}`)
    }
  }

  /** The item a ref names, among those that may be seen; -1, which is nobody, when there is none. */
  protected item(ref: string): string {
    const [code, number] = ref.split('/')
    // Refs are today's; an item that was there then may have been deleted since.
    const there = this.queryContext.asOf
      ? `r.project_id = ANY(${this.binds.bind(this.queryContext.visible, 'int[]')})`
      : permitted(this.queryContext, this.binds, 'r')
    return `coalesce((SELECT r.id FROM item r JOIN project rp ON rp.id = r.project_id WHERE rp.code = ${this.binds.bind(code, 'text')} AND r.number = ${this.binds.bind(Number(number), 'int')} AND ${there}), -1)`
  }

  /** A property of the parent, at the moment asked about, when the asker may see it; an array of no parent is empty. */
  protected parents(property: Property): string {
    const { queryContext, binds, alias } = this
    const moment = binds.instant(queryContext.moment)
    const from = queryContext.asOf
      ? `item_state parent WHERE parent.id = ${alias}.parent_id AND parent.valid_from <= ${moment} AND parent.valid_to > ${moment}`
      : `item parent WHERE parent.id = ${alias}.parent_id`
    const read = `(SELECT ${propertySql(queryContext, binds, property, 'parent')} FROM ${from} AND ${permitted(queryContext, binds, 'parent')})`
    return property.type.kind === 'array' ? `coalesce(${read}, '{}'::int[])` : read
  }

  protected arithmetic({ op, left, right }: Extract<Value, { kind: 'arithmetic' }>): string {
    const [a, b] = [this.numeric(left), this.numeric(right)]
    return arithmeticSql(op, a, b)
  }

  /** Whole-number columns would divide whole: every operand is a decimal. */
  protected numeric(value: Value): string {
    return value.kind === 'property' ? `${this.value(value)}::numeric` : this.value(value)
  }

  /** The day a value stands for whatever the item, or undefined. */
  dayKnown(value: Value): string | undefined {
    if (value.kind === 'literal' && value.type.kind === 'date') return String(value.value)
    if (value.kind !== 'call' || value.type.kind !== 'date' || !isSameForAll(value.name))
      return undefined
    const { moment, world } = this.queryContext
    // A day changes with the clock alone, so that it does not matter who asks.
    const { vocabulary, zone } = world
    return asText(constantOf(value, { vocabulary, zone, now: moment, me: null }))
  }

  /** The two ends of an interval, or of a day or moment taken as one. */
  ends(value: Value): { start: IntervalEnd; end: IntervalEnd } {
    if (value.kind === 'call' && isInterval(value.name)) {
      // Only these functions give an interval.
      const { from, to } = intervalOf(value.name as IntervalFunction, value, this.queryContext)
      return { start: { kind: 'day', day: from }, end: { kind: 'day', day: to } }
    }
    if (value.kind === 'interval') return { start: this.end(value.start), end: this.end(value.end) }
    return { start: this.end(value), end: this.end(value) }
  }

  protected end(value: Value | null): IntervalEnd {
    if (!value) return { kind: 'open' }
    const day = this.dayKnown(value)
    if (day !== undefined) return { kind: 'day', day }
    return { kind: 'value', value, nullable: valueMayBeEmpty(value) }
  }
}
