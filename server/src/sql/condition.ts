import { addDays, dayOf, instantOf, startOfDay } from '@bluestem/core/calendar'
import {
  accenti,
  type ArrayOp,
  casei,
  type CompareOp,
  type Condition,
  type EndComparison,
  endsInEscape,
  type Property,
  relations,
  type Side,
  type Value,
} from '@bluestem/core/queries'
import { functionSql, type IntervalFunction, intervalOf, isInterval } from './functions.ts'
import { arithmeticSql, propertySql } from './property.ts'
import { type Asking, type Binds, permitted } from './statement.ts'

/** Compiles a checked condition over the state under an alias into one boolean expression of three values. */
export class Compiler {
  readonly asking: Asking
  readonly binds: Binds
  readonly alias: string

  constructor(asking: Asking, binds: Binds, alias: string) {
    this.asking = asking
    this.binds = binds
    this.alias = alias
  }

  condition(condition: Condition): string {
    switch (condition.kind) {
      case 'and':
      case 'or':
        return `(${condition.args.map((arg) => this.condition(arg)).join(condition.kind === 'and' ? ' AND ' : ' OR ')})`
      case 'not':
        return `(NOT ${this.condition(condition.arg)})`
      case 'truth':
        return condition.value ? 'TRUE' : 'FALSE'
      case 'compare':
        return this.#compare(condition.op, condition.left, condition.right)
      case 'like':
        return this.#like(condition.value, condition.pattern)
      case 'between':
        return `(${this.value(condition.value)} BETWEEN ${this.value(condition.low)} AND ${this.value(condition.high)})`
      case 'in':
        return this.#in(condition.value, condition.list)
      case 'isNull':
        if (isParent(condition.value))
          return `(${this.alias}.parent_id IS NULL OR ${this.value(condition.value)} IS NULL)`
        return condition.value.type.kind === 'array'
          ? `(cardinality(${this.value(condition.value)}) = 0)`
          : `(${this.value(condition.value)} IS NULL)`
      case 'array':
        return arraySql(condition.op, this.value(condition.left), this.value(condition.right))
      case 'temporal':
        return this.#temporal(condition)
      case 'call':
        return this.value(condition)
    }
  }

  /**
   * The predicate “the whole is unknown”, built from the leaves that can be; undefined when nothing can.
   * For AND one part is unknown and none is false, for OR one is unknown and none is true.
   */
  unknown(condition: Condition): string | undefined {
    if (condition.kind === 'not') return this.unknown(condition.arg)
    if (condition.kind !== 'and' && condition.kind !== 'or')
      return mayBeUnknown(condition) ? `(${this.condition(condition)} IS NULL)` : undefined
    const parts = condition.args.map((arg) => ({ arg, unknown: this.unknown(arg) }))
    const unknowns = parts.flatMap((part) => part.unknown ?? [])
    if (unknowns.length === 0) return undefined
    const not = condition.kind === 'and' ? 'IS NOT FALSE' : 'IS NOT TRUE'
    const others = parts.map((part) =>
      part.unknown
        ? `(${this.condition(part.arg)} ${not})`
        : condition.kind === 'and'
          ? this.condition(part.arg)
          : `(NOT ${this.condition(part.arg)})`,
    )
    return `((${unknowns.join(' OR ')}) AND ${others.join(' AND ')})`
  }

  value(value: Value): string {
    switch (value.kind) {
      case 'literal':
        return this.#literal(value)
      case 'property':
        return value.ofParent
          ? this.#parents(value.property)
          : propertySql(this.asking, this.binds, value.property, this.alias)
      case 'interval':
        throw new Error('an interval has no expression of its own')
      case 'list':
        return value.items.length === 0
          ? `'{}'::int[]`
          : `ARRAY[${value.items.map((item) => this.value(item)).join(', ')}]::int[]`
      case 'arithmetic':
        return this.#arithmetic(value)
      case 'fold':
        return value.value.kind === 'literal'
          ? this.#text((value.fold === 'casei' ? casei : accenti)(String(value.value.value)))
          : `${value.fold}(${this.value(value.value)})`
      case 'call':
        return functionSql(value.name)(this, value)
    }
  }

  #text(text: string): string {
    return `${this.binds.bind(text, 'text')} COLLATE "C"`
  }

  #literal(value: Extract<Value, { kind: 'literal' }>): string {
    const { type } = value
    switch (type.kind) {
      case 'number':
        return this.binds.bind(value.value, 'numeric')
      case 'text':
        return this.#text(String(value.value))
      case 'boolean':
        return this.binds.bind(value.value, 'boolean')
      case 'date':
        return this.binds.bind(value.value, 'date')
      case 'timestamp':
        return this.binds.instant(instantOf(String(value.value)))
      case 'choice':
        return type.domain === 'item'
          ? this.#item(String(value.value))
          : this.binds.bind(
              this.asking.world.numbers.of(type.domain, String(value.value)) ?? -1,
              'int',
            )
      default:
        throw new Error(`no literal is of kind ${type.kind}`)
    }
  }

  /** The item a ref names, among those that may be seen; -1, which is nobody, when there is none. */
  #item(ref: string): string {
    const [code, number] = ref.split('/')
    // Refs are today's; an item that was there then may have been deleted since.
    const there = this.asking.asOf
      ? `r.project_id = ANY(${this.binds.bind(this.asking.visible, 'int[]')})`
      : permitted(this.asking, this.binds, 'r')
    return `coalesce((SELECT r.id FROM item r JOIN project rp ON rp.id = r.project_id WHERE rp.code = ${this.binds.bind(code, 'text')} AND r.number = ${this.binds.bind(Number(number), 'int')} AND ${there}), -1)`
  }

  /** A property of the parent, at the moment asked about, when the asker may see it; an array of no parent is empty. */
  #parents(property: Property): string {
    const { asking, binds, alias } = this
    const moment = binds.instant(asking.moment)
    const from = asking.asOf
      ? `item_state parent WHERE parent.id = ${alias}.parent_id AND parent.valid_from <= ${moment} AND parent.valid_to > ${moment}`
      : `item parent WHERE parent.id = ${alias}.parent_id`
    const read = `(SELECT ${propertySql(asking, binds, property, 'parent')} FROM ${from} AND ${permitted(asking, binds, 'parent')})`
    return property.type.kind === 'array' ? `coalesce(${read}, '{}'::int[])` : read
  }

  #arithmetic({ op, left, right }: Extract<Value, { kind: 'arithmetic' }>): string {
    const [a, b] = [this.#numeric(left), this.#numeric(right)]
    return arithmeticSql(op, a, b)
  }

  /** Whole-number columns would divide whole: every operand is a decimal. */
  #numeric(value: Value): string {
    return value.kind === 'property' ? `${this.value(value)}::numeric` : this.value(value)
  }

  #compare(op: CompareOp, left: Value, right: Value): string {
    const byRef = this.#refEquals(op, left, right) ?? this.#parentEquals(op, left, right)
    if (byRef) return byRef
    const [a, b] = [left.type.kind, right.type.kind]
    if (a === 'timestamp' && b === 'date') return this.#momentToDay(op, left, right)
    if (a === 'date' && b === 'timestamp') return this.#momentToDay(turned[op], right, left)
    return `(${this.value(left)} ${op} ${this.value(right)})`
  }

  /** `ref = 'YARD/128'` asks the index of refs. */
  #refEquals(op: CompareOp, left: Value, right: Value): string | undefined {
    if (
      op !== '=' ||
      left.kind !== 'property' ||
      left.ofParent ||
      left.property.handle !== 'ref' ||
      right.kind !== 'literal'
    )
      return undefined
    const [, code, number] = /^([^/]*)\/([1-9]\d{0,8})$/.exec(String(right.value)) ?? []
    const project = this.asking.world.projects.find((one) => one.code === code)
    return project
      ? `(${this.alias}.project_id = ${this.binds.bind(project.number, 'int')} AND ${this.alias}.number = ${this.binds.bind(Number(number), 'int')})`
      : 'FALSE'
  }

  /** `parent = 'YARD/12'` asks the index of parents first; whether the parent may be seen is looked at for what that finds. */
  #parentEquals(op: CompareOp, left: Value, right: Value): string | undefined {
    if (op !== '=' || !isParent(left) || right.kind !== 'literal') return undefined
    const seen = this.value(left)
    return `((${this.alias}.parent_id = ${this.value(right)} AND ${seen} IS NOT NULL) OR (${seen} IS NULL AND NULL::boolean))`
  }

  /** A moment beside a day is taken as its day; beside a day known now, the moment itself is compared with the day's bounds. */
  #momentToDay(op: CompareOp, moment: Value, day: Value): string {
    const known = this.dayKnown(day)
    if (known === undefined)
      return `((${this.value(moment)} AT TIME ZONE ${this.binds.bind(this.asking.world.zone, 'text')})::date ${op} ${this.value(day)})`
    const { zone } = this.asking.world
    const [start, next] = [
      this.binds.instant(startOfDay(known, zone)),
      this.binds.instant(startOfDay(addDays(known, 1), zone)),
    ]
    const at = this.value(moment)
    switch (op) {
      case '=':
        return `(${at} >= ${start} AND ${at} < ${next})`
      case '<>':
        return `(NOT (${at} >= ${start} AND ${at} < ${next}))`
      case '<':
        return `(${at} < ${start})`
      case '<=':
        return `(${at} < ${next})`
      case '>':
        return `(${at} >= ${next})`
      case '>=':
        return `(${at} >= ${start})`
    }
  }

  /** The day a value stands for whatever the item, or undefined. */
  dayKnown(value: Value): string | undefined {
    if (value.kind === 'literal' && value.type.kind === 'date') return String(value.value)
    if (value.kind !== 'call' || value.type.kind !== 'date') return undefined
    const today = dayOf(this.asking.moment, this.asking.world.zone)
    const count = value.args[0]?.kind === 'literal' ? Number(value.args[0].value) : 0
    return addDays(today, value.name === 'days_ago' ? -count : count)
  }

  #in(value: Value, list: readonly Value[]): string {
    const plain =
      list.every((one) => one.kind === 'literal' && one.type.kind === value.type.kind) &&
      value.type.kind !== 'text'
    if (plain && !(value.type.kind === 'choice' && value.type.domain === 'item'))
      return `(${this.value(value)} IN (${list.map((one) => this.value(one)).join(', ')}))`
    return `(${list.map((one) => this.#compare('=', value, one)).join(' OR ')})`
  }

  #like(value: Value, pattern: Value): string {
    const text = patternText(pattern)
    if (endsInEscape(text)) return 'NULL::boolean'
    const plain = `(${this.value(value)} LIKE ${this.#text(text)})`
    if (isDescription(value) && !text.includes('_'))
      return `(casei(${this.value(value)}) LIKE ${this.#text(casei(text))} AND ${plain})`
    // That the text itself is like anything tells the database that an item without one is no answer, which it cannot see through a fold.
    if (value.kind === 'fold' && isDescription(value.value))
      return `(${plain} AND ${this.value(value.value)} LIKE '%')`
    return plain
  }

  #temporal({ op, left, right }: Extract<Condition, { kind: 'temporal' }>): string {
    if (left.type.kind !== 'interval' && right.type.kind !== 'interval') {
      const compare: Partial<Record<typeof op, CompareOp>> = {
        t_after: '>',
        t_before: '<',
        t_equals: '=',
        t_intersects: '=',
        t_disjoint: '<>',
      }
      return this.#compare(compare[op]!, left, right)
    }
    const { join, comparisons, negated } = relations[op]
    const [a, b] = [this.ends(left), this.ends(right)]
    const parts = comparisons.map((one) => this.#ends(a[one.a], one, b[one.b]))
    const joined = `(${parts.map((part) => part.sql).join(join === 'and' ? ' AND ' : ' OR ')})`
    const whole = negated ? `(NOT ${joined})` : joined
    const empties = [
      ...new Set(
        [a.start, a.end, b.start, b.end].flatMap((end) =>
          end.kind === 'value' && end.nullable ? [this.value(end.value)] : [],
        ),
      ),
    ]
    // An end that is empty makes the whole unknown, whatever the other comparisons say.
    if (
      empties.length === 0 ||
      (empties.length === 1 && parts.every((part) => part.mentions === empties[0]))
    )
      return whole
    return `(CASE WHEN ${empties.map((one) => `${one} IS NULL`).join(' OR ')} THEN NULL ELSE ${whole} END)`
  }

  /** The two ends of an interval, or of a day or moment taken as one. */
  ends(value: Value): { start: IntervalEnd; end: IntervalEnd } {
    if (value.kind === 'call' && isInterval(value.name)) {
      const { from, to } = intervalOf(value.name as IntervalFunction, value, this.asking)
      return { start: { kind: 'day', day: from }, end: { kind: 'day', day: to } }
    }
    if (value.kind === 'interval')
      return { start: this.#end(value.start), end: this.#end(value.end) }
    return { start: this.#end(value), end: this.#end(value) }
  }

  #end(value: Value | null): IntervalEnd {
    if (!value) return { kind: 'open' }
    const day = this.dayKnown(value)
    if (day !== undefined) return { kind: 'day', day }
    return { kind: 'value', value, nullable: valueMayBeEmpty(value) }
  }

  #ends(
    a: IntervalEnd,
    { a: aSide, op, b: bSide }: EndComparison,
    b: IntervalEnd,
  ): { sql: string; mentions?: string } {
    const infinite = (end: IntervalEnd, side: Side): number =>
      end.kind !== 'open' ? 0 : side === 'start' ? -1 : 1
    const [x, y] = [infinite(a, aSide), infinite(b, bSide)]
    if (x !== 0 || y !== 0)
      return { sql: (op === '<' ? x < y : op === '>' ? x > y : x === y) ? 'TRUE' : 'FALSE' }
    const bothDays = isDayEnd(a) && isDayEnd(b)
    const mentioned = [a, b].flatMap((end) => (end.kind === 'value' ? [this.value(end.value)] : []))
    return {
      sql: `${this.#endSql(a, aSide, bothDays)} ${op} ${this.#endSql(b, bSide, bothDays)}`,
      ...(mentioned[0] === undefined ? {} : { mentions: mentioned[0] }),
    }
  }

  /** An end as a day beside a day, else as an instant: a day is its first or its last millisecond. */
  #endSql(end: IntervalEnd, side: Side, asDay: boolean): string {
    const { zone } = this.asking.world
    if (end.kind === 'open') throw new Error('an open end has no expression')
    if (end.kind === 'day')
      return asDay
        ? this.binds.bind(end.day, 'date')
        : this.binds.instant(
            side === 'start'
              ? startOfDay(end.day, zone)
              : startOfDay(addDays(end.day, 1), zone) - 1,
          )
    const sql = this.value(end.value)
    if (asDay || end.value.type.kind !== 'date') return sql
    const zoneSql = this.binds.bind(zone, 'text')
    return side === 'start'
      ? `(${sql}::timestamp AT TIME ZONE ${zoneSql})`
      : `((${sql} + 1)::timestamp AT TIME ZONE ${zoneSql} - interval '1 millisecond')`
  }
}

type IntervalEnd =
  | { readonly kind: 'open' }
  | { readonly kind: 'day'; readonly day: string }
  | { readonly kind: 'value'; readonly value: Value; readonly nullable: boolean }

const isDayEnd = (end: IntervalEnd): boolean =>
  end.kind === 'day' || (end.kind === 'value' && end.value.type.kind === 'date')

const isParent = (value: Value): boolean =>
  value.kind === 'property' && !value.ofParent && value.property.handle === 'parent'

const turned: Record<CompareOp, CompareOp> = {
  '=': '=',
  '<>': '<>',
  '<': '>',
  '>': '<',
  '<=': '>=',
  '>=': '<=',
}

/** A pattern is always a literal, folded here rather than in every row. */
function patternText(pattern: Value): string {
  if (pattern.kind === 'fold')
    return (pattern.fold === 'casei' ? casei : accenti)(patternText(pattern.value))
  if (pattern.kind === 'literal') return String(pattern.value)
  throw new Error('a pattern is a literal')
}

function arraySql(op: ArrayOp, a: string, b: string): string {
  switch (op) {
    case 'a_contains':
      return `(${a} @> ${b})`
    case 'a_containedBy':
      return `(${a} <@ ${b})`
    case 'a_equals':
      return `(${a} @> ${b} AND ${a} <@ ${b})`
    case 'a_overlaps':
      return `(${a} && ${b})`
  }
}

/** Whether a value can be empty for an item; the columns that are NOT NULL never are. */
export function valueMayBeEmpty(value: Value): boolean {
  switch (value.kind) {
    case 'literal':
      return false
    case 'property':
      return value.property.nullable
    case 'interval':
      return [value.start, value.end].some((end) => end !== null && valueMayBeEmpty(end))
    case 'list':
      return false
    case 'arithmetic':
      return (
        ['/', '%', 'div', '^'].includes(value.op) ||
        valueMayBeEmpty(value.left) ||
        valueMayBeEmpty(value.right)
      )
    case 'fold':
      return valueMayBeEmpty(value.value)
    case 'call':
      return (
        ['me', 'first_into', 'last_into'].includes(value.name) ||
        value.args.some((arg) => arg.kind === 'interval' && valueMayBeEmpty(arg))
      )
  }
}

/** Texts are under an index, folded; a fold may make two characters of one, so a pattern that counts characters cannot use it. */
const isDescription = (value: Value): boolean =>
  value.kind === 'property' && value.property.handle === 'description' && !value.ofParent

/** Whether a leaf can be unknown; AND, OR and NOT are no leaves. */
function mayBeUnknown(condition: Condition): boolean {
  switch (condition.kind) {
    case 'and':
    case 'or':
    case 'not':
    case 'truth':
    case 'isNull':
    case 'array':
      return false
    case 'compare':
    case 'temporal':
      return valueMayBeEmpty(condition.left) || valueMayBeEmpty(condition.right)
    case 'like':
      return valueMayBeEmpty(condition.value) || endsInEscape(patternText(condition.pattern))
    case 'between':
      return [condition.value, condition.low, condition.high].some(valueMayBeEmpty)
    case 'in':
      return [condition.value, ...condition.list].some(valueMayBeEmpty)
    case 'call':
      return valueMayBeEmpty(condition)
  }
}
