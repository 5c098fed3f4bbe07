import pg from 'pg'

const mark = '/* prepared */ '

/** How many statements a connection has planned at most; then it forgets them all. */
const mostPrepared = 200

/**
 * A statement that finds by key and is run again and again: each connection plans it once, for planning takes several times what
 * finding by key does. Statements of people's filters are not marked so, as their best plan depends on the values.
 */
export const prepared = (sql: string): string => mark + sql

type Query = (text: unknown, values?: unknown, ...rest: unknown[]) => unknown

/** A connection that plans once what is marked so. */
class PreparingClient extends pg.Client {
  private readonly names = new Map<string, string>()
  private given = 0

  constructor(config?: string | pg.ClientConfig) {
    super(config)
    // The driver types this function by many overloads; here its arguments only pass through.
    const query = this.query.bind(this) as Query
    const preparing: Query = (text, values, ...rest) =>
      typeof text === 'string' && this.prepares(text) && Array.isArray(values)
        ? // A list tested for is typed as one of anything.
          query({ name: this.nameOf(text, query), text, values: values as unknown[] }, ...rest)
        : query(text, values, ...rest)
    // As above: what it takes and gives is as before.
    this.query = preparing as typeof this.query
  }

  /** Whether a statement is planned once. */
  protected prepares(text: string): boolean {
    return text.startsWith(mark)
  }

  /** The name by which the connection knows a statement. None is given twice, so that a forgotten one is never taken for another. */
  private nameOf(text: string, query: Query): string {
    const known = this.names.get(text)
    if (known !== undefined) return known
    if (this.names.size >= mostPrepared) {
      this.names.clear()
      query('DEALLOCATE ALL', () => undefined)
    }
    const name = `prepared_${(this.given += 1)}`
    this.names.set(text, name)
    return name
  }
}

/** A connection whose few statements find by key, all of them. */
class KeyedClient extends PreparingClient {
  protected override prepares(): boolean {
    return true
  }
}

/** A pool of connections that plan each of their statements once. */
export const keyedPool = (config: pg.PoolConfig): pg.Pool =>
  new pg.Pool({ ...config, Client: KeyedClient })

/** The driver, with connections that plan once what is marked so. */
export const preparingDriver = Object.create(pg, {
  Client: { value: PreparingClient },
}) as typeof pg
