/**
 * Ids as a statement names them by the value it binds first. One alone stands there as it is, for which the database plans once and
 * for all; of a list it expects more than one, and would plan anew each time.
 */
export interface NamedIds {
  readonly bound: number | readonly number[]
  /** the ids as a table of one column `id` */
  readonly table: string
  /** whether a column is one of the ids */
  readonly among: (column: string) => string
}

export function namedIds(ids: readonly number[]): NamedIds {
  const [only] = ids
  return only !== undefined && ids.length === 1
    ? {
        bound: only,
        table: '(SELECT $1::int AS id) AS ids',
        among: (column) => `${column} = $1::int`,
      }
    : {
        bound: ids,
        table: 'unnest($1::int[]) AS ids (id)',
        among: (column) => `${column} = ANY($1::int[])`,
      }
}
