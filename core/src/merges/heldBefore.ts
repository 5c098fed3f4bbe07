/**
 * What an item holds once a merge is undone: of what it holds now, the one is taken away where it came by the merge, and the others that
 * it held before come back. What was given or taken since stays as it is.
 *
 * @param now    the numbers it holds now
 * @param before the numbers it held before the merge
 * @param into   what the others became
 * @param from   the others
 * @returns numbers in ascending order
 */
export function heldBefore(
  now: readonly number[],
  before: readonly number[],
  into: number,
  from: readonly number[],
): number[] {
  const kept = now.filter((number) => number !== into || before.includes(into))
  const back = before.filter((number) => from.includes(number))
  return [...new Set([...kept, ...back])].sort((a, b) => a - b)
}
