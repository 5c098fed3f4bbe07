import { readFile, stat } from 'node:fs/promises'
import { basename } from 'node:path'
import { detectSeparator } from '@bluestem/core/exchange'
import type { CsvRecord } from '../exchange/readCsv.ts'
import { filled } from '../exchange/readCsv.ts'
import { Problem } from '../problems/problem.ts'

/** How large a directory may be, in bytes. */
const most = 5_000_000

/** The lines of the directory’s file. @throws Problem 409 where it cannot be read */
export async function linesOfDirectory(
  path: string,
): Promise<{ readonly name: string; readonly lines: readonly CsvRecord[] }> {
  const name = basename(path)
  const unreadable = (why: string): Problem =>
    new Problem(409, 'Not readable', `The directory “${name}” cannot be read: ${why}`)
  const found = await stat(path).catch(() => undefined)
  if (!found?.isFile())
    throw unreadable('there is no such file on the server. Its place is a setting.')
  if (found.size > most) throw unreadable('it is larger than 5 MB.')
  const text = await readFile(path, 'utf8').catch(() => undefined)
  if (text === undefined) throw unreadable('the server may not open it.')
  return { name, lines: filled(text, detectSeparator(text)) }
}
