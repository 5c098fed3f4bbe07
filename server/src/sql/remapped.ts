/** An array with one member replaced (or taken out), each member once, ascending. */
export const remappedArray = (array: string, from: string, to: string): string =>
  `ARRAY(SELECT DISTINCT n FROM (SELECT CASE WHEN one = ${from} THEN ${to} ELSE one END AS n FROM unnest(${array}) one) z WHERE n IS NOT NULL ORDER BY n)`
