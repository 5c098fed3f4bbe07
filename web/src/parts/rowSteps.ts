/** Rows that Page Up and Page Down go over. */
const page = 12

const steps: Readonly<Record<string, (index: number, count: number) => number>> = {
  ArrowDown: (index) => index + 1,
  ArrowUp: (index) => index - 1,
  Home: () => 0,
  End: (_, count) => count - 1,
  PageDown: (index) => index + page,
  PageUp: (index) => index - page,
}

/** The row that a key goes to from another, within the table; undefined where the key goes nowhere. */
export function rowStep({ key }: KeyboardEvent, index: number, count: number): number | undefined {
  const to = steps[key]?.(index, count)
  return to === undefined ? undefined : Math.min(count - 1, Math.max(0, to))
}

/** Whether a key is meant for the row it was pressed on, not for a control in it or for the browser. */
export const isOfRow = (event: KeyboardEvent): boolean =>
  event.target === event.currentTarget && !event.altKey && !event.ctrlKey && !event.metaKey
