import ICAL from 'ical.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { withoutSecret } from '../src/exchange/subscriptions.ts'
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let lena: Caller
let ida: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  lena = await served.signIn('Lena Ostrow')
  ida = await served.signIn('Ida Lund')
})
afterAll(async () => await served.close())

const due = { op: 'not', args: [{ op: 'isNull', args: [{ property: 'due' }] }] }
const asked = { filter: due, format: 'icalendar', date: 'due', title: 'What is due' }
async function made(by = mara, parts = {}): Promise<{ id: string; address: string }> {
  const { status, body } = await by('POST', '/subscriptions', { ...asked, ...parts })
  expect(status, JSON.stringify(body)).toBe(201)
  return body
}
/** What a program that nobody signed in gets. */
const read = async (address: string): Promise<{ status: number; text: string }> => {
  const answer = await fetch(address)
  return { status: answer.status, text: await answer.text() }
}
const events = (text: string): string[] =>
  new ICAL.Component(ICAL.parse(text) as never)
    .getAllSubcomponents('vevent')
    .map((event) => String(event.getFirstPropertyValue('summary')))

describe('an address that a program reads', () => {
  it('gives the answers of the moment as a calendar, without anybody signed in', async () => {
    const { address } = await made()
    expect(address).toMatch(/^http:\/\/.+\/subscriptions\/[\w-]{43}\.ics$/)
    const first = await read(address)
    expect(first.status).toBe(200)
    const { total } = (await mara('POST', '/items/search', { filter: due, kept: true, limit: 1 }))
      .body
    expect(events(first.text)).toHaveLength(total)
    const item = await mara('POST', '/items', {
      project: 'YARD',
      type: 'ty_job',
      title: 'New in the calendar',
      due: '2027-01-02',
    })
    expect(item.status, JSON.stringify(item.body)).toBe(201)
    expect(events((await read(address)).text).join()).toContain('New in the calendar')
    const { subscriptions } = (await mara('GET', '/subscriptions')).body
    expect(subscriptions[0].readAt).not.toBeNull()
  })

  it('gives a feed as well', async () => {
    const { address } = await made(mara, { format: 'atom', date: undefined })
    expect(address).toMatch(/\.atom$/)
    expect((await read(address)).text).toContain('<feed')
  })

  it('shows what its maker may see, and no more', async () => {
    const all = events((await read((await made()).address)).text)
    const some = events((await read((await made(lena)).address)).text)
    expect(all.some((text) => text.startsWith('CREW/'))).toBe(true)
    expect(some.some((text) => text.startsWith('CREW/'))).toBe(false)
    expect(some.length).toBeGreaterThan(0)
  })

  it('is nobody’s any more once it is ended, and only its maker ends it', async () => {
    const { id, address } = await made()
    expect((await lena('DELETE', `/subscriptions/${id}`)).status).toBe(404)
    expect((await read(address)).status).toBe(200)
    expect((await mara('DELETE', `/subscriptions/${id}`)).status).toBe(204)
    expect((await read(address)).status).toBe(404)
  })

  it('is none for whoever left', async () => {
    const { address } = await made(ida)
    expect((await read(address)).status).toBe(200)
    const { people } = (await mara('GET', '/people')).body
    const { id, version } = people.find(({ name }: { name: string }) => name === 'Ida Lund')
    const left = await mara(
      'PATCH',
      `/people/${id}`,
      { active: false },
      { 'If-Match': `"${version}"` },
    )
    expect(left.status, JSON.stringify(left.body)).toBe(200)
    expect((await read(address)).status).toBe(404)
  })

  it.each(['x.ics', `${'a'.repeat(43)}.ics`, `${'a'.repeat(43)}.csv`, '..%2f..%2fapi.ics'])(
    'is not %s',
    async (file) => {
      expect((await read(`${served.origin}/subscriptions/${file}`)).status).toBe(404)
    },
  )

  it.each([
    ['a date that is none', { date: 'title' }, '/date'],
    [
      'a filter that is none',
      { filter: { op: '=', args: [{ property: 'nope' }, 1] } },
      '/filter/args/0',
    ],
  ])('refuses %s', async (_, parts, pointer) => {
    const answer = await mara('POST', '/subscriptions', { ...asked, ...parts })
    expect(answer.status).toBe(400)
    expect(answer.body.errors[0].pointer).toBe(pointer)
  })

  it('keeps its secret out of the tables, the lists and the log', async () => {
    const { address } = await made()
    const secret = /subscriptions\/([\w-]{43})/.exec(address)![1]!
    const held = await rows<{ row: string }>(
      served.database,
      'SELECT to_jsonb(s)::text AS row FROM subscription s',
    )
    const listed = JSON.stringify((await mara('GET', '/subscriptions')).body)
    expect(held.map(({ row }) => row).join() + listed).not.toContain(secret)
    expect(withoutSecret(`/subscriptions/${secret}.ics?x=1`)).toBe('/subscriptions/…?x=1')
    expect(withoutSecret('/api/v1/items')).toBe('/api/v1/items')
  })
})
