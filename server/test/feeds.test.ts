import { instantText } from '@bluestem/core/calendar'
import type { ItemAnswer, Property } from '@bluestem/core/queries'
import { XMLParser } from 'fast-xml-parser'
import naughty from 'big-list-of-naughty-strings/blns.json' with { type: 'json' }
import ICAL from 'ical.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { calendarOf } from '../src/exchange/calendar.ts'
import { feedOf } from '../src/exchange/feed.ts'
import vectors from './vectors/icalendar-atom.json' with { type: 'json' }
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

const now = new Date('2026-11-25T10:00:00Z')
const labelled = {
  title: 'Yard: due',
  addressOf: (ref: string) => `https://lake.example/work/${ref}`,
  host: 'lake.example',
  workspace: 'Marrowmere Ferries',
  now,
}
const due: Property = {
  handle: 'due',
  title: 'Due',
  type: { kind: 'date' },
  changesWith: ['own'],
  nullable: true,
  builtIn: true,
}
const anItem = (parts: Record<string, unknown> = {}): ItemAnswer => ({
  ref: 'YARD/1',
  title: 'Ramp hinge weeps',
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  on_hold: false,
  due: '2026-12-03',
  created: '2026-11-20T08:00:00Z',
  changed: '2026-11-24T08:00:00Z',
  raised_by: { id: 'pe_tom', title: 'Tom Okafor' },
  ...parts,
})
const calendar = (parts: Record<string, unknown> = {}): string =>
  calendarOf([anItem(parts)], due, labelled)
const feed = (parts: Record<string, unknown> = {}): string => feedOf([anItem(parts)], labelled)

/** Read by a library that has nothing to do with the one that wrote it. */
const eventsOf = (text: string): ICAL.Event[] =>
  new ICAL.Component(ICAL.parse(text) as never)
    .getAllSubcomponents('vevent')
    .map((subcomponent) => new ICAL.Event(subcomponent))
const parser = new XMLParser({
  ignoreAttributes: false,
  isArray: (name) => name === 'entry',
  htmlEntities: false,
})
const plain = (html: string): string =>
  html
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&quot;', '"')
    .replaceAll('&#39;', "'")
    .replaceAll('&amp;', '&')
const entriesOf = (text: string) => parser.parse(text).feed.entry ?? []

interface Vector {
  readonly name: string
  readonly source: string
  readonly input: Record<string, string>
  readonly expected: any
}
const named = (start: string): Vector[] =>
  (vectors as unknown as Vector[]).filter(({ name }) => name.startsWith(start))

describe('a calendar (RFC 5545)', () => {
  it.each(named('TEXT escape'))('$name', ({ input, expected }) => {
    const text = calendar({ title: input['text'] }).replaceAll('\r\n ', '')
    expect(text).toContain(`SUMMARY:YARD/1 ${expected.escaped}\r\n`)
    expect(eventsOf(text)[0]!.summary).toBe(`YARD/1 ${expected.parsedBack}`)
  })

  it.each(named('fold'))('$name', ({ input }) => {
    const title = input['line']!.slice('SUMMARY:'.length)
    const lines = calendar({ title }).split('\r\n')
    for (const line of lines) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    expect(lines.join('\r\n').replaceAll('\r\n ', '')).toContain(
      `SUMMARY:YARD/1 ${title.replace('\\,', '\\\\\\,')}`,
    )
  })

  it('has all that a calendar and an event must have, and a day without time or zone', () => {
    const lines = calendar().split('\r\n')
    for (const must of [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'BEGIN:VEVENT',
      'DTSTAMP:20261125T100000Z',
    ])
      expect(lines).toContain(must)
    expect(lines).toContain('DTSTART;VALUE=DATE:20261203')
    expect(lines).toContain('UID:YARD-1-due@lake.example')
    expect(lines.some((line) => line.startsWith('PRODID:'))).toBe(true)
  })

  it('shows a moment as one', () => {
    const moment: Property = {
      ...due,
      handle: 'trial',
      type: { kind: 'timestamp' },
      builtIn: false,
    }
    const item = anItem({ fields: { trial: '2026-12-03T08:30:00Z' } })
    expect(calendarOf([item], moment, labelled)).toContain('DTSTART:20261203T083000Z')
  })

  it('leaves out what has no such date', () => {
    expect(eventsOf(calendarOf([anItem({ due: null }), anItem()], due, labelled))).toHaveLength(1)
  })
})

describe('a feed (RFC 4287)', () => {
  it('has all that a feed and an entry must have', () => {
    const { feed: read } = parser.parse(feed())
    expect([read.title, read.updated, read.author.name]).toEqual([
      'Yard: due',
      '2026-11-24T08:00:00.000Z',
      'Marrowmere Ferries',
    ])
    expect(read.id).toMatch(/^tag:lake\.example,2026:/)
    const [entry] = read.entry
    expect(entry).toMatchObject({
      id: 'https://lake.example/work/YARD/1',
      updated: '2026-11-24T08:00:00.000Z',
      published: '2026-11-20T08:00:00.000Z',
      author: { name: 'Tom Okafor' },
    })
    expect(entry.link['@_href']).toBe('https://lake.example/work/YARD/1')
  })

  it('is a feed without entries, too', () => {
    const { feed: read } = parser.parse(feedOf([], labelled))
    expect([read.updated, read.entry]).toEqual([
      instantText(now.getTime()).replace('Z', '.000Z'),
      undefined,
    ])
  })

  // The Big List of Naughty Strings 1.0.0 (MIT), a published list.
  it('holds any title, which reads back as it was', () => {
    for (const title of naughty.filter((text) => text.trim() !== '')) {
      const [entry] = entriesOf(feed({ title, description: title }))
      // What XML cannot hold is left out.
      const kept = title.replaceAll(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
      const words = (text: string): string => text.replaceAll(/\s+/g, ' ').trim()
      expect(words(plain(String(entry.title['#text']))), title).toBe(words(`YARD/1 ${kept}`))
    }
  })
})

describe('answers taken out', () => {
  let served: Served
  let mara: Caller
  beforeAll(async () => {
    served = await serveWorkspace()
    mara = await served.signIn('Mara Thiel')
  })
  afterAll(async () => await served.close())
  const filter = `project = 'YARD'`
  const out = async (more: object) => await mara('POST', '/items/export', { filter, ...more })
  const answers = async () =>
    (await mara('POST', '/items/search', { filter, fields: 'due,title', limit: 1000 })).body.items

  it('as a calendar are the items that have the date, on their days', async () => {
    const { body } = await out({ format: 'icalendar', date: 'due', title: 'In hand' })
    const wanted = (await answers()).filter((answer: any) => answer.due !== null)
    const read = eventsOf(String(body)).map(
      (event) => `${event.summary} ${event.startDate.toString()}`,
    )
    expect(read.length).toBeGreaterThan(5)
    expect(read.sort()).toEqual(
      wanted.map((entry: any) => `${entry.ref} ${entry.title} ${entry.due}`).sort(),
    )
  })

  it('as a feed are all of them', async () => {
    const { body } = await out({ format: 'atom', title: 'In hand' })
    const titles = entriesOf(String(body)).map((entry: any) => plain(entry.title['#text']))
    expect(titles.sort()).toEqual(
      (await answers()).map((answer: any) => `${answer.ref} ${answer.title}`).sort(),
    )
  })

  it.each([
    ['title', 'Title is no date.'],
    ['nothing', 'There is no field “nothing”.'],
  ])('as a calendar of %s are refused', async (date, message) => {
    const { status, body } = await out({ format: 'icalendar', date })
    expect([status, body.errors[0]]).toMatchObject([400, { pointer: '/date', message }])
  })
})
