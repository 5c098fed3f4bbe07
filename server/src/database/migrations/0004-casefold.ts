import { foldsFrom, foldsToSeveral } from '@bluestem/core/queries'
import type { Migration } from './migration.ts'
import { run } from '../connect.ts'
import { allFolded, literal } from './0001-begin.ts'

/** A class of characters for a regular expression, neighbours written as ranges. */
function classOf(characters: readonly string[]): string {
  const points = characters
    .map((character) => Number(character.codePointAt(0)))
    .sort((a, b) => a - b)
  const ranges: [number, number][] = []
  for (const point of points) {
    const last = ranges.at(-1)
    if (last && point === last[1] + 1) last[1] = point
    else ranges.push([point, point])
  }
  return `[${ranges.map(([from, to]) => (from === to ? String.fromCodePoint(from) : `${String.fromCodePoint(from)}-${String.fromCodePoint(to)}`)).join('')}]`
}

/** Text beyond ASCII mostly holds nothing that folds (dashes, quotes, small letters with accents): one look tells, and the long way is left to the rest. */
function casefold(): string {
  const foldable = classOf(
    [...[...foldsFrom], ...foldsToSeveral.map(([from]) => from)].filter((text) => text > '\u007f'),
  )
  return `CREATE OR REPLACE FUNCTION casei_beyond_ascii(x text) RETURNS text LANGUAGE plpgsql IMMUTABLE PARALLEL SAFE COST 1 AS $body$
    BEGIN
      IF x COLLATE "C" !~ ${literal(foldable)} THEN RETURN lower(x COLLATE "C"); END IF;
      RETURN ${allFolded};
    END $body$;`
}

export const quickerCasefold: Migration = {
  name: '0004-casefold',
  up: async (database) => await run(database, casefold()),
}
