import { elementAt } from '@bluestem/core/known'
import type { Instant } from '@bluestem/core/calendar'
import type { World } from '../workspace/world.ts'

/** What a statement is made for: whose question, about which moment, over what they may see. */
export interface QueryContext {
  readonly world: World
  /** the number of the person who asks */
  readonly me: number | null
  /** the moment asked about; relative functions are evaluated at it */
  readonly moment: Instant
  /** whether past states are asked about, as of the moment */
  readonly asOf: boolean
  /** numbers of the projects the person may see */
  readonly visible: readonly number[]
}

/** The states that a moment asks about of an item named by an expression, those that may be seen. */
export function stateOf(
  queryContext: QueryContext,
  binds: Binds,
  id: string,
  alias: string,
): string {
  return `${stateTable(queryContext)} ${alias} WHERE ${alias}.id = ${id}${atMoment(queryContext, binds, alias)} AND ${permitted(queryContext, binds, alias)}`
}

export interface Statement {
  readonly sql: string
  readonly bind: readonly unknown[]
}

/** The spans in which a roll-up keeps its value, as a SELECT, and to which states under `s` it applies. */
export interface Spans {
  readonly sql: string
  readonly applies: string
}

const [earliest, latest] = [
  Date.parse('0001-01-01T00:00:00Z'),
  Date.parse('9999-12-31T23:59:59.999Z'),
]

/**
 * Collects bind parameters: a value from outside reaches SQL only through `bind`. Places are numbered when the statement is
 * finished, so that a part that was compiled and then left out leaves no parameter behind, which the database would refuse.
 */
export class Binds {
  /** the alias whose table may be joined with others; expressions over other aliases look things up in place */
  readonly joined: string | undefined
  /** the alias that stands for all states of all time, which are cut where a roll-up changes */
  readonly overTime: string | undefined
  /** whether something joined is so much work that a statement should read it once */
  onePassOnly = false
  readonly #joins = new Map<string, { readonly name: string; readonly sql: string }>()
  readonly #spans = new Map<string, Spans & { readonly name: string }>()
  readonly #values: { readonly value: unknown; readonly type: string }[] = []
  readonly #places = new Map<string, string>()

  constructor(joined?: string, overTime?: string) {
    this.joined = joined
    this.overTime = overTime
  }

  /** Joins what is the same for every row once; `make` gives the join for the name it gets. @returns that name */
  join(key: string, make: (name: string) => string): string {
    const known = this.#joins.get(key)
    if (known) return known.name
    const name = `j${this.#joins.size}`
    this.#joins.set(key, { name, sql: make(name) })
    return name
  }

  /** Everything that was joined, to stand behind the table; asked for when all expressions are there. */
  joins(): string {
    return [...this.#joins.values()].map((join) => join.sql).join('')
  }

  /** The name of a roll-up's value in the states under the alias `overTime`. */
  spans(key: string, make: () => Spans): string {
    const known = this.#spans.get(key)
    if (known) return known.name
    const name = `r${this.#spans.size}`
    this.#spans.set(key, { name, ...make() })
    return name
  }

  /** Every roll-up whose spans were asked for; asked for when all expressions are there. */
  allSpans(): readonly (Spans & { readonly name: string })[] {
    return [...this.#spans.values()]
  }

  /** The place of a value; the same value of the same type is bound once. */
  bind(value: unknown, type: string): string {
    const key = `${type} ${JSON.stringify(value)}`
    const known = this.#places.get(key)
    if (known) return known
    const place = `\u0001${this.#values.push({ value, type }) - 1}\u0001`
    this.#places.set(key, place)
    return place
  }

  /** Nothing that is kept lies outside the years 1 to 9999, so what does is before or after everything. */
  instant(instant: Instant): string {
    return this.bind(
      instant < earliest
        ? '-infinity'
        : instant > latest
          ? 'infinity'
          : new Date(instant).toISOString(),
      'timestamptz',
    )
  }

  /** The finished statement with the parameters that stand in it. */
  statement(sql: string): Statement {
    const used = new Map<number, number>()
    const numbered = sql.replace(/\u0001(\d+)\u0001/g, (_, written: string) => {
      const index = Number(written)
      const place = used.get(index) ?? used.size + 1
      used.set(index, place)
      return `$${place}::${elementAt(this.#values, index).type}`
    })
    return {
      sql: numbered,
      bind: [...used.keys()].map((index) => elementAt(this.#values, index).value),
    }
  }
}

/** The table that holds the states asked about, under an alias, and the column its states begin at. */
export const stateTable = (queryContext: QueryContext): string =>
  queryContext.asOf ? 'item_state' : 'item'
export const beginsAt = (queryContext: QueryContext, alias: string): string =>
  queryContext.asOf ? `${alias}.valid_from` : `${alias}.row_from`

/**
 * The one permission fragment, put on every read of items or states: an item is visible if its present project is;
 * a past state also needs its project of then. Deleted items are nobody's answer.
 */
export function permitted(queryContext: QueryContext, binds: Binds, alias: string): string {
  const projects = binds.bind(queryContext.visible, 'int[]')
  const own = `${alias}.project_id = ANY(${projects}) AND NOT ${alias}.deleted`
  // Whoever sees every project sees wherever an item is now.
  if (
    !queryContext.asOf ||
    queryContext.visible.length === queryContext.world.whole.projects.length
  )
    return own
  return `${own} AND EXISTS (SELECT FROM item present WHERE present.id = ${alias}.id AND present.project_id = ANY(${projects}))`
}

/** The states that held at the moment asked about; nothing to say for the present table. */
export function atMoment(queryContext: QueryContext, binds: Binds, alias: string): string {
  if (!queryContext.asOf) return ''
  const moment = binds.instant(queryContext.moment)
  return ` AND ${alias}.valid_from <= ${moment} AND ${alias}.valid_to > ${moment}`
}
