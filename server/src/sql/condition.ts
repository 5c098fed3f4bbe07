import { entryOf } from '@bluestem/core/known'
import { hasTrigram, isDescription, isTitle, patternText } from './pattern.ts'
import { addDays, startOfDay } from '@bluestem/core/calendar'
import {
  type ArrayOp,
  casei,
  type CompareOp,
  type Condition,
  endsInEscape,
  relations,
  type Value,
} from '@bluestem/core/queries'
import { IntervalCompiler } from './interval.ts'
import { mayBeUnknown } from './unknown.ts'

/** Compiles a checked condition over the state under an alias into one boolean expression of three values. */
export class Compiler extends IntervalCompiler {
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
        return this.compare(condition.op, condition.left, condition.right)
      case 'like':
        return this.like(condition.value, condition.pattern)
      case 'between':
        return `(${this.value(condition.value)} BETWEEN ${this.value(condition.low)} AND ${this.value(condition.high)})`
      case 'in':
        return this.in(condition.value, condition.list)
      case 'isNull':
        if (isParent(condition.value))
          return `(${this.alias}.parent_id IS NULL OR ${this.value(condition.value)} IS NULL)`
        return condition.value.type.kind === 'array'
          ? `(cardinality(${this.value(condition.value)}) = 0)`
          : `(${this.value(condition.value)} IS NULL)`
      case 'array':
        return arraySql(condition.op, this.value(condition.left), this.value(condition.right))
      case 'temporal':
        return this.temporal(condition)
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

  protected compare(op: CompareOp, left: Value, right: Value): string {
    const byRef = this.refEquals(op, left, right) ?? this.parentEquals(op, left, right)
    if (byRef) return byRef
    const [a, b] = [left.type.kind, right.type.kind]
    if (a === 'timestamp' && b === 'date') return this.momentToDay(op, left, right)
    if (a === 'date' && b === 'timestamp') return this.momentToDay(turned[op], right, left)
    return `(${this.value(left)} ${op} ${this.value(right)})`
  }

  /** `ref = 'SITE/128'` asks the index of refs. */
  protected refEquals(op: CompareOp, left: Value, right: Value): string | undefined {
    if (
      op !== '=' ||
      left.kind !== 'property' ||
      left.ofParent ||
      left.property.handle !== 'ref' ||
      right.kind !== 'literal'
    )
      return undefined
    const [, code, number] = /^([^/]*)\/([1-9]\d{0,8})$/.exec(String(right.value)) ?? []
    const project = this.queryContext.world.projects.find((project) => project.code === code)
    return project
      ? `(${this.alias}.project_id = ${this.binds.bind(project.number, 'int')} AND ${this.alias}.number = ${this.binds.bind(Number(number), 'int')})`
      : 'FALSE'
  }

  /** `parent = 'SITE/12'` asks the index of parents first; whether the parent may be seen is looked at for what that finds. */
  protected parentEquals(op: CompareOp, left: Value, right: Value): string | undefined {
    if (op !== '=' || !isParent(left) || right.kind !== 'literal') return undefined
    const seen = this.value(left)
    return `((${this.alias}.parent_id = ${this.value(right)} AND ${seen} IS NOT NULL) OR (${seen} IS NULL AND NULL::boolean))`
  }

  /** A moment beside a day is taken as its day; beside a day known now, the moment itself is compared with the day's bounds. */
  protected momentToDay(op: CompareOp, moment: Value, day: Value): string {
    const known = this.dayKnown(day)
    if (known === undefined)
      return `((${this.value(moment)} AT TIME ZONE ${this.binds.bind(this.queryContext.world.zone, 'text')})::date ${op} ${this.value(day)})`
    const { zone } = this.queryContext.world
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

  protected in(value: Value, list: readonly Value[]): string {
    const plain =
      list.every((entry) => entry.kind === 'literal' && entry.type.kind === value.type.kind) &&
      value.type.kind !== 'text'
    if (plain && !(value.type.kind === 'choice' && value.type.domain === 'item'))
      return `(${this.value(value)} IN (${list.map((entry) => this.value(entry)).join(', ')}))`
    return `(${list.map((entry) => this.compare('=', value, entry)).join(' OR ')})`
  }

  protected like(value: Value, pattern: Value): string {
    const text = patternText(pattern)
    if (endsInEscape(text)) return 'NULL::boolean'
    if (this.asksTitles(value, text)) return this.titleLike(value, text)
    const plain = `(${this.value(value)} LIKE ${this.text(text)})`
    if (isDescription(value) && !text.includes('_'))
      return `(casei(${this.value(value)}) LIKE ${this.text(casei(text))} AND ${plain})`
    // That the text itself is like anything tells the database that an item without one is no answer, which it cannot see through a fold.
    if (value.kind === 'fold' && isDescription(value.value))
      return `(${plain} AND ${this.value(value.value)} LIKE '%')`
    return plain
  }

  /** Whether the index of present titles finds what a pattern is like: where all items are asked about, and the pattern holds something to look for. */
  protected asksTitles(value: Value, pattern: string): boolean {
    const ofAll = !this.queryContext.asOf && this.binds.joined === this.alias
    const foldsAlike = value.kind === 'fold' || !pattern.includes('_')
    return ofAll && isTitle(value) && foldsAlike && hasTrigram(pattern)
  }

  protected titleLike(value: Value, pattern: string): string {
    const folded = `casei(t.title) LIKE ${this.text(casei(pattern))}`
    const exact = value.kind === 'fold' ? '' : ` AND t.title LIKE ${this.text(pattern)}`
    return `(${this.alias}.id IN (SELECT t.item_id FROM item_text t WHERE t.valid_to = 'infinity' AND ${folded}${exact}))`
  }

  protected temporal({ op, left, right }: Extract<Condition, { kind: 'temporal' }>): string {
    if (left.type.kind !== 'interval' && right.type.kind !== 'interval') {
      const compare: Partial<Record<typeof op, CompareOp>> = {
        t_after: '>',
        t_before: '<',
        t_equals: '=',
        t_intersects: '=',
        t_disjoint: '<>',
      }
      return this.compare(entryOf(compare, op), left, right)
    }
    const { join, comparisons, negated } = relations[op]
    const [a, b] = [this.ends(left), this.ends(right)]
    const parts = comparisons.map((comparison) =>
      this.compareEnds(a[comparison.a], comparison, b[comparison.b]),
    )
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
    return `(CASE WHEN ${empties.map((empty) => `${empty} IS NULL`).join(' OR ')} THEN NULL ELSE ${whole} END)`
  }
}

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
