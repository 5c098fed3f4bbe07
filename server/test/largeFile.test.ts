import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { unguardCell } from '@bluestem/core/exchange'
import vectors from './vectors/csv.json' with { type: 'json' }
import { runJobs } from './jobWorker.ts'
import { testNow } from './setup.ts'
import { type Caller, type Served, serveWorkspace } from './workspace.ts'

// The long one is as large as a file may be: npm run test:long.
const count = process.env['BLUESTEM_LONG'] === undefined ? 3000 : 100_000
/** one row of two hundred is wrong, so 500 of the largest file */
const every = 200

/** What is odd about cells in the vectors, but for what no text holds. */
const odd = (
  vectors as unknown as readonly {
    readonly name: string
    readonly input: { readonly cell?: unknown; readonly rows?: readonly (readonly string[])[] }
  }[]
)
  .flatMap(({ input }) => [...(input.rows?.flat() ?? []), input.cell])
  .filter((cell): cell is string => typeof cell === 'string')

const headings = ['Number', 'Kind', 'What', 'Words', 'Hours', 'Until', 'Above']

/** Ways in which a row is wrong: which cell, what stands in it, what is told. */
const wrongs = [
  { column: 'Kind', found: 'Jobb', expected: /type/i },
  { column: 'Hours', found: 'many', expected: /number/ },
  { column: 'Until', found: '31.2.2027', expected: /day/ },
  { column: 'Above', found: 'YARD/999999', expected: /item/ },
]

interface Row {
  readonly cells: readonly string[]
  readonly wrong: (typeof wrongs)[number] | undefined
}

/** The rows of a file, made up by their places. */
const rows = Array.from({ length: count }, (_, at): Row => {
  const number = `N-${at}`
  const words = odd[at % odd.length]!
  const day = `${1 + (at % 28)}.${1 + (at % 12)}.2027`
  const cells = [number, 'Job', `Row ${at} of a file`, words, `${(at % 80) / 4}`, day, '']
  const wrong =
    at % every === every - 1 ? wrongs[Math.floor(at / every) % wrongs.length] : undefined
  return {
    wrong,
    cells: wrong ? cells.with(headings.indexOf(wrong.column), wrong.found) : cells,
  }
})
const bad = rows.filter(({ wrong }) => wrong).length
const text = Papa.unparse([headings, ...rows.map(({ cells }) => [...cells])], { newline: '\r\n' })

/** The line at which each row begins, by counting the breaks in all cells before it. */
const lines = rows.reduce<{ at: number; of: number[] }>(
  ({ at, of }, { cells }) => ({
    at: at + 1 + cells.join('').split(/\r\n|\n|\r/).length - 1,
    of: (of.push(at), of),
  }),
  { at: 2, of: [] },
).of

describe('a large file with cells of every kind', () => {
  let served: Served
  let mara: Caller
  let reading: object
  let number: string
  beforeAll(async () => {
    served = await serveWorkspace()
    mara = await served.signIn('Mara Thiel')
    const { fields } = (await mara('GET', '/definitions')).body.document
    number = Object.values(fields as Record<string, { handle: string; kind: string }>).find(
      ({ kind }) => kind === 'text',
    )!.handle
    reading = {
      columns: [number, 'type', 'title', 'description', 'estimate', 'due', 'parent'],
      key: number,
      days: 'DMY',
    }
  })
  afterAll(async () => await served.close())

  const take = async (): Promise<string> => {
    const taken = await mara('POST', '/imports', { project: 'YARD', name: 'all.csv', text })
    expect(taken.body).toMatchObject({ rows: count, separator: ',' })
    return taken.body.id
  }
  const carryOut = async (id: string) => {
    await mara('POST', `/imports/${id}/carry-out`, { goodOnly: true })
    await runJobs(served, () => testNow)
    return (await mara('GET', `/imports/${id}`)).body
  }

  it('tells every wrong row with its line and column, what was found and what would do', async () => {
    const id = await take()
    const check = (await mara('POST', `/imports/${id}/check`, reading)).body
    expect(check).toMatchObject({ made: count - bad, changed: 0, same: 0, wrong: bad })
    expect((await mara('GET', `/imports/${id}`)).body.done).toBe(count)
    expect(check.problemCount).toBe(bad)
    const expected = rows.flatMap(({ wrong }, at) => (wrong ? [{ ...wrong, line: lines[at] }] : []))
    expect(check.problems).toHaveLength(bad)
    for (const [index, problem] of check.problems.entries()) {
      const { line, column, found, expected: would } = expected[index]!
      expect(problem).toMatchObject({ line, column, found })
      expect(problem.expected ?? problem.message).toMatch(would)
    }
    expect(await carryOut(id)).toMatchObject({
      state: 'done',
      counts: { made: count - bad, wrong: bad },
    })
    const rest = Papa.parse<string[]>((await mara('GET', `/imports/${id}/rest`)).body).data
    expect(rest.filter(([first]) => first?.startsWith('N-'))).toHaveLength(bad)
  })

  it('changes nothing the second time', async () => {
    const check = (await mara('POST', `/imports/${await take()}/check`, reading)).body
    expect(check).toMatchObject({ made: 0, changed: 0, same: count - bad, wrong: bad })
  })

  it('taken out again has the same values, as another library reads them', async () => {
    const out = await mara('POST', '/items/export', {
      format: 'csv',
      filter: `${number} LIKE 'N-%'`,
      fields: `${number},type,title,description,estimate,due`,
    })
    const [, ...found] = Papa.parse<string[]>((out.body as string).replace(/^\uFEFF/, ''), {
      skipEmptyLines: true,
    }).data
    const byNumber = new Map(found.map((cells) => [cells[0]!, cells.map(unguardCell)]))
    expect(byNumber.size).toBe(count - bad)
    for (const { cells, wrong } of rows) {
      if (wrong) continue
      const [key, type, title, words, hours, day] = cells.map((cell) => cell.trim())
      const [date, month, year] = day!.split('.')
      const due = `${year}-${month!.padStart(2, '0')}-${date!.padStart(2, '0')}`
      expect(byNumber.get(key!)).toEqual([key, type, title, words, hours, due])
    }
  })
})
