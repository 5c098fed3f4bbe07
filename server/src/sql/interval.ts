import { ValueCompiler } from './value.ts'
import type { IntervalEnd } from './itemCompiler.ts'
import { addDays, startOfDay } from '@bluestem/core/calendar'
import type { EndComparison, Side } from '@bluestem/core/queries'

/** Turns comparisons of days, moments and intervals into comparisons of their ends. */
export abstract class IntervalCompiler extends ValueCompiler {
  protected compareEnds(
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
      sql: `${this.endSql(a, aSide, bothDays)} ${op} ${this.endSql(b, bSide, bothDays)}`,
      ...(mentioned[0] === undefined ? {} : { mentions: mentioned[0] }),
    }
  }

  /** An end as a day beside a day, else as an instant: a day is its first or its last millisecond. */
  protected endSql(end: IntervalEnd, side: Side, asDay: boolean): string {
    const { zone } = this.queryContext.world
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

const isDayEnd = (end: IntervalEnd): boolean =>
  end.kind === 'day' || (end.kind === 'value' && end.value.type.kind === 'date')
