/** Titles stand in the order of words, and numbers in them in the order of numbers. */
export const inWords = new Intl.Collator('en', { numeric: true })

/** Rows by what one column says of them; the same rows where nothing orders them. */
export function orderedBy<Row>(
  rows: readonly Row[],
  by: ((row: Row) => string | number) | undefined,
  direction: 1 | -1,
): readonly Row[] {
  if (!by) return rows
  const said = new Map(rows.map((row) => [row, by(row)]))
  const compared = (a: Row, b: Row): number => {
    const [first, second] = [said.get(a) ?? '', said.get(b) ?? '']
    if (typeof first === 'number' && typeof second === 'number') return first - second
    return inWords.compare(String(first), String(second))
  }
  return rows.toSorted((a, b) => direction * compared(a, b))
}
