import { elementAt, valueFor } from '../known/index.ts'
import { instantText } from '../calendar/day.ts'
import type { QueryNames } from '../queries/tree/vocabulary.ts'
import type { Property } from '../queries/tree/checked.ts'
import { splitNames, unguardCell } from './cell.ts'
import { type ColumnTarget, type LinkColumn, linkColumnOf } from './linkColumn.ts'
import { type DayOrder, readDayAs } from './day.ts'

/** How a file is read: what each column becomes, which field tells rows apart, and how days are written. */
export interface FileReading {
  readonly columns: readonly ColumnTarget[]
  /** the handle of the field by whose value a row finds the item it changes */
  readonly key: string | null
  readonly days: DayOrder
}

/** What is wrong with a cell: where it stands, what was found there, and what would do. */
export interface CellProblem {
  readonly line: number
  /** the heading of the column; null where it is the row as a whole */
  readonly column: string | null
  readonly message: string
  readonly found?: string
  readonly expected?: string
}

/** A link that a cell asks for. */
export interface LinkGiven extends LinkColumn {
  /** the heading of its column */
  readonly column: string
  /** the ref of the other item, or the key of its row */
  readonly to: string
}

/** A row as it is given: values by handle, custom ones under `fields`. */
export interface RowGiven {
  readonly line: number
  /** as they stand in the file */
  readonly cells: readonly string[]
  /** the ref of the item that the row changes */
  readonly ref: string | null
  /** the value of the key field */
  readonly key: string | null
  readonly given: Readonly<Record<string, unknown>>
  readonly links: readonly LinkGiven[]
  readonly wrong: readonly CellProblem[]
}

type Cell = { readonly value: unknown } | { readonly expected: string }

const yes = new Set(['yes', 'true', '1', 'y', 'x'])
const no = new Set(['no', 'false', '0', 'n'])

function readTruth(text: string): Cell {
  const word = text.toLowerCase()
  if (yes.has(word)) return { value: true }
  return no.has(word) ? { value: false } : { expected: 'yes or no' }
}

/** A number as people write it: with a comma or a point before its decimals, and thousands set apart by spaces. */
function readNumber(text: string): Cell {
  const plain = text.replaceAll(/[\s\u00a0\u202f]/g, '').replace(',', '.')
  return /^[+-]?\d+(\.\d+)?$/.test(plain) ? { value: plain } : { expected: 'a number such as 12.5' }
}

function readMoment(text: string): Cell {
  const instant = Date.parse(text)
  const isWhole = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(text) && !Number.isNaN(instant)
  return isWhole
    ? { value: instantText(instant) }
    : { expected: 'a moment such as 2026-03-01T08:00:00Z' }
}

const examples: Readonly<Record<DayOrder, string>> = {
  YMD: '2026-03-01',
  DMY: '1.3.2026 (day, month, year)',
  MDY: '3/1/2026 (month, day, year)',
}

/** A cell as what the field holds; names of choices are looked up where the row is judged. */
function readCell({ type }: Property, text: string, days: DayOrder): Cell {
  switch (type.kind) {
    case 'number':
      return readNumber(text)
    case 'boolean':
      return readTruth(text)
    case 'date': {
      const day = readDayAs(text, days)
      return day === undefined ? { expected: `a day such as ${examples[days]}` } : { value: day }
    }
    case 'timestamp':
      return readMoment(text)
    case 'array':
      return { value: splitNames(text) }
    default:
      return { value: text }
  }
}

/** Reads one row of a file; every cell that does not fit is told with its line and column. Empty cells say nothing. */
export function readRow(
  { columns, key, days }: FileReading,
  headings: readonly string[],
  cells: readonly string[],
  line: number,
  vocabulary: QueryNames,
): RowGiven {
  const builtIn: Record<string, unknown> = {}
  const fields: Record<string, unknown> = {}
  const links: LinkGiven[] = []
  const wrong: CellProblem[] = []
  let ref: string | null = null
  let keyValue: string | null = null
  if (cells.length > headings.length)
    wrong.push({
      line,
      column: null,
      message: `Line ${line} has ${cells.length} cells, the heading has ${headings.length}.`,
      expected: `${headings.length} cells`,
      found: `${cells.length} cells`,
    })
  for (const [index, target] of columns.entries()) {
    const text = unguardCell((cells[index] ?? '').trim())
    if (target === null || text === '') continue
    if (target === 'ref') {
      ref = text.toUpperCase()
      continue
    }
    const link = linkColumnOf(target)
    if (link) {
      links.push(
        ...splitNames(text).map((to) => ({ ...link, column: elementAt(headings, index), to })),
      )
      continue
    }
    const property = valueFor(vocabulary.properties, target)
    if (target === key) keyValue = text
    const read = readCell(property, text, days)
    if ('value' in read) (property.builtIn ? builtIn : fields)[target] = read.value
    else
      wrong.push({
        line,
        column: elementAt(headings, index),
        message: `${property.title} cannot be read from “${text}”.`,
        expected: read.expected,
        found: text,
      })
  }
  const given = { ...builtIn, ...(Object.keys(fields).length > 0 ? { fields } : {}) }
  return { line, cells, ref, key: keyValue, given, links, wrong }
}
