/** A place among the items: the numbers of its project and in it. */
export interface ItemPlace {
  readonly project: number
  readonly number: number
}

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

/** Places as a statement names them, one alone as it is, as with ids. */
export interface NamedPlaces {
  readonly bound: readonly (number | readonly number[])[]
  /** the places as a table `place` of `project` and `number` */
  readonly table: string
}

/** @param first the place of the first of the two values that are bound for it */
export function namedPlaces(places: readonly ItemPlace[], first: number): NamedPlaces {
  const [only] = places
  return only !== undefined && places.length === 1
    ? {
        bound: [only.project, only.number],
        table: `(SELECT $${first}::int AS project, $${first + 1}::int AS number) AS place`,
      }
    : {
        bound: [places.map(({ project }) => project), places.map(({ number }) => number)],
        table: `unnest($${first}::int[], $${first + 1}::int[]) AS place (project, number)`,
      }
}
