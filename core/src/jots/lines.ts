import { elementAt, lastIn } from '../known/index.ts'

/** A line that was jotted: its title, and the line above it that it stands below. */
export interface JotLine {
  readonly title: string
  /** the place of that line among those read, counted from 0; null for a line of its own */
  readonly above: number | null
}

/** how far a tabulator goes, in columns */
const tabulator = 4

/** Marks of lists before a title: a dash, a star, a dot, a number, a box to tick. */
const marks = /^(?:[-*+•–]|\d{1,3}[.)])(?:\s+|$)(?:\[[ xX]?\]\s+)?|^\[[ xX]?\]\s+/u

/** How far a line is indented, in columns. */
function indentOf(line: string): number {
  let column = 0
  for (const char of line) {
    if (char === '\t') column += tabulator - (column % tabulator)
    else if (char === ' ' || char === '\u00a0') column += 1
    else break
  }
  return column
}

const titleOf = (line: string): string =>
  line.trim().replace(marks, '').replace(/\s+/gu, ' ').trim()

/**
 * Reads what was written or pasted as titles, one a line. A line that is indented further than one before it stands below that one;
 * marks of lists are left out, and so are lines without a title.
 */
export function readJots(text: string): JotLine[] {
  const read: JotLine[] = []
  const open: { readonly indent: number; readonly place: number }[] = []
  for (const line of text.split(/\r\n|[\n\r\u2028\u2029]/u)) {
    const title = titleOf(line)
    if (title === '') continue
    const indent = indentOf(line)
    while (open.length > 0 && lastIn(open).indent >= indent) open.pop()
    const above = open.at(-1)?.place ?? null
    open.push({ indent, place: read.length })
    read.push({ title, above })
  }
  return read
}

/** Titles as text that reads as the same lines again. */
export function writeJots(lines: readonly JotLine[]): string {
  const depths: number[] = []
  for (const { above } of lines) depths.push(above === null ? 0 : elementAt(depths, above) + 1)
  return lines
    .map(({ title }, place) => `${'\t'.repeat(elementAt(depths, place))}${title}`)
    .join('\n')
}
