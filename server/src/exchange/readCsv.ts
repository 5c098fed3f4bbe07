import type { Separator } from '@bluestem/core/exchange'
import { CsvError, parse } from 'csv-parse/sync'
import { invalid } from '../problems/problem.ts'

/** A record of a file, with the line at which it begins: one in quotes may go over several. */
export interface CsvRecord {
  readonly line: number
  readonly cells: readonly string[]
}

/** How many rows a file may have. */
export const mostRows = 100_000

/**
 * Reads a file as RFC 4180 has it; empty lines are passed over, lines of another length are read as they are.
 *
 * @throws Problem 400 with the line at which quotes are broken, or where there is nothing or too much to read
 */
export function readCsv(text: string, separator: Separator): CsvRecord[] {
  const found = filled(text, separator)
  if (found.length < 2)
    throw invalid([
      {
        pointer: '/text',
        message:
          'The file holds no rows: a heading stands in its first line, and a row in each line below.',
        expected: 'a heading and at least one row',
      },
    ])
  if (found.length - 1 > mostRows)
    throw invalid([
      {
        pointer: '/text',
        message: `The file has ${found.length - 1} rows; at most ${mostRows} come in at once. Part it.`,
        expected: `at most ${mostRows} rows`,
        found: String(found.length - 1),
      },
    ])
  return found
}

/** Every record of a text that holds something. */
export const filled = (text: string, separator: Separator): CsvRecord[] =>
  parsed(text, separator).filter(({ cells }) => cells.length > 1 || cells[0]?.trim() !== '')

/** Counts the lines that records go over. The library can tell them, and takes four times as long. */
function withLines(records: readonly string[][]): CsvRecord[] {
  let line = 1
  return records.map((cells) => {
    const begins = line
    line += 1
    for (const cell of cells)
      if (cell.includes('\n') || cell.includes('\r')) line += cell.split(/\r\n|\n|\r/).length - 1
    return { line: begins, cells }
  })
}

/** Every record of a text. @throws Problem 400 with the line at which quotes are broken */
export function parsed(text: string, separator: Separator): CsvRecord[] {
  try {
    const records: string[][] = parse(text, {
      bom: true,
      delimiter: separator,
      relax_column_count: true,
    })
    return withLines(records)
  } catch (error) {
    if (!(error instanceof CsvError)) throw error
    const line = Number('lines' in error ? error.lines : 1)
    throw invalid([
      {
        pointer: '/text',
        message: `Line ${line} cannot be read: its quotes do not fit. A cell with quotes stands in quotes itself, and those inside are doubled.`,
        expected: 'cells as RFC 4180 writes them',
        found: text.split(/\r\n|\n|\r/)[line - 1]?.slice(0, 80) ?? '',
      },
    ])
  }
}
