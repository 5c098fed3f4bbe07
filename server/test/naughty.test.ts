import naughty from 'big-list-of-naughty-strings/blns.json' with { type: 'json' }
import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

// The Big List of Naughty Strings 1.0.0 (MIT), a published list.
describe('naughty titles and texts', () => {
  it('are kept as they are, or refused with words', async () => {
    const kept: string[] = []
    for (const text of naughty) {
      const made = await tom('POST', '/items', {
        project: 'YARD',
        type: 'ty_defect',
        title: text.slice(0, 300),
        description: `about: ${text}`.slice(0, 20_000),
      })
      if (made.status === 400) {
        expect(made.body.errors[0].message, text).toMatch(/\w+ \w+/)
        continue
      }
      expect(made.status, text).toBe(201)
      const { body } = await tom('GET', `/items/${made.body.ref}`)
      expect(body.title.normalize('NFC').trim(), text).toBe(
        text.slice(0, 300).normalize('NFC').trim(),
      )
      kept.push(made.body.ref)
    }
    expect(kept.length).toBeGreaterThan(naughty.length * 0.9)
  })

  it('are found, listed and taken out', async () => {
    const filter = `raised_by = 'Tom Okafor' AND created >= today()`
    const { body } = await tom('POST', '/items/search', { filter, limit: 1000 })
    expect(body.total).toBeGreaterThan(400)
    for (const text of naughty.slice(0, 150).filter((text) => text.trim() !== '')) {
      const quoted = text.replaceAll("'", "''")
      const found = await tom('POST', '/items/search', { filter: `title = '${quoted}'` })
      expect(found.status, text).toBeLessThan(500)
    }
    const out = await tom('POST', '/items/export', { filter, format: 'csv', fields: 'ref,title' })
    const { data } = Papa.parse<string[]>(String(out.body).trim())
    expect([out.status, data.length, new Set(data.map((row) => row.length))]).toEqual([
      200,
      body.total + 1,
      new Set([2]),
    ])
  })
})
