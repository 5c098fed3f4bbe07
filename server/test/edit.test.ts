import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace({})
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

/** The first words of every statement between the beginning of a transaction and its end, both counted. */
async function statementsOf(edit: () => Promise<unknown>): Promise<string[]> {
  const asked = vi.spyOn(served.database, 'query')
  await edit()
  const texts = asked.mock.calls.map(([sql]) => (typeof sql === 'string' ? sql : sql.query).trim())
  asked.mockRestore()
  const begins = texts.findIndex((text) => text.startsWith('START TRANSACTION'))
  const ends = texts.findIndex((text) => text.startsWith('COMMIT'))
  return texts.slice(begins, ends + 1)
}

describe('an edit of one item', () => {
  it.each([
    ['a number', { estimate: 3 }],
    ['a person', { assignee: 'Tom Okafor' }],
    ['a day', { due: '2026-12-24' }],
    ['a priority', { priority: { id: 'pi_stopped' } }],
    ['a move with what is said', { status: 'In hand', comment: 'seen' }],
    ['its type and its parent', { type: 'Job', parent: null }],
    ['its title and its description', { title: 'Ramp hinge', description: 'squeaks' }],
    ['labels', { labels: ['ramp'] }],
    ['its place', { position: { after: 'YARD/3' } }],
    [
      'everything at once',
      {
        status: 'In hand',
        title: 'All',
        labels: ['ramp'],
        estimate: 2,
        position: { after: 'YARD/3' },
      },
    ],
  ])('takes at most five statements: %s', async (_, change) => {
    const made = await tom('POST', '/items', { project: 'YARD', type: 'Defect', title: 'Hinge' })
    const path = `/items/${made.body.ref}`
    const statements = await statementsOf(async () => {
      const { status, body } = await tom('PATCH', path, change, { 'if-match': '*' })
      expect(status, JSON.stringify(body)).toBe(200)
    })
    expect(statements[0]).toContain('START')
    expect(
      statements.length,
      statements.map((text) => text.slice(0, 40)).join('; '),
    ).toBeLessThanOrEqual(5)
  })

  it('keeps a text that somebody else changed while it waited for the item', async () => {
    const made = await tom('POST', '/items', { project: 'YARD', type: 'Defect', title: 'Hinge' })
    const path = `/items/${made.body.ref}`
    const changes = [{ description: 'squeaks' }, { title: 'Hinge of the ramp' }, { estimate: 5 }]
    await Promise.all(
      changes.map(async (one) => await tom('PATCH', path, one, { 'if-match': '*' })),
    )
    const { body } = await tom('GET', path)
    expect(body).toMatchObject({
      title: 'Hinge of the ramp',
      description: 'squeaks',
      estimate: 5,
    })
  })
})
