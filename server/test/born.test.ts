import type { BirthAnswer } from '@bluestem/core/work'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let ida: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  ida = await served.signIn('Ida Lund')
})
afterAll(async () => await served.close())

async function bornOf(filter: unknown, chosen = {}): Promise<BirthAnswer> {
  const { status, body } = await mara('POST', '/items/born', { filter, ...chosen })
  expect(status).toBe(200)
  return body
}

/** Makes the item that a filter asks for, as a list does. */
const make = async ({ project, type, given }: BirthAnswer, title: string) =>
  await mara('POST', '/items', { project, type, title, ...given })

/** Whether an item answers a filter, as the database sees it. */
async function answers(filter: unknown, ref: string): Promise<boolean> {
  const [code, number] = ref.split('/')
  const own = { op: '=', args: [{ property: 'ref' }, `${code}/${number}`] }
  const both = filter === true ? own : { op: 'and', args: [filter, own] }
  const { body } = await mara('POST', '/items/search', { filter: both, kept: true })
  return body.total === 1
}

describe('an item made straight in a list', () => {
  it('is an answer of every saved question whose clauses can be met, and of none that was told', async () => {
    const { queries } = (await mara('GET', '/queries')).body
    const seen = { met: 0, told: 0 }
    for (const { title, content } of queries) {
      const birth = await bornOf(content.filter)
      if (birth.project === null) continue
      const made = await make(birth, 'Ramp hinge weeps')
      // A form may require what no filter names.
      if (made.status !== 201) {
        expect(JSON.stringify(made.body.errors), title).toMatch(/must be filled|needs a label/)
        continue
      }
      const isAnswer = await answers(content.filter, made.body.ref)
      if (birth.unmet.length > 0) expect(isAnswer, title).toBe(false)
      else if (birth.written.length === 0) expect(isAnswer, title).toBe(true)
      seen[birth.unmet.length > 0 ? 'told' : 'met'] += 1
    }
    expect(seen.met).toBeGreaterThan(4)
    expect(seen.told).toBeGreaterThan(0)
  })

  it('stands in the column of a board in which it is made', async () => {
    const { content } = (await mara('GET', '/views/vi_morning')).body
    const { body: board } = await mara('POST', '/views/arrange', { view: content })
    for (const { value, shown } of board.columns) {
      const status = { op: '=', args: [{ property: 'status' }, value] }
      const birth = await bornOf({ op: 'and', args: [board.filter, status] })
      if (birth.unmet.length > 0) continue
      const made = await make(birth, 'Ramp hinge weeps')
      expect(made.body.status, shown.title).toMatchObject({ id: value })
      expect(await answers(board.filter, made.body.ref)).toBe(true)
    }
  })

  it('tells the values it takes as they are shown, and what cannot be', async () => {
    const filter = {
      op: 'and',
      args: [
        { op: '=', args: [{ property: 'project' }, 'pr_yard'] },
        { op: '=', args: [{ property: 'assignee' }, { op: 'me', args: [] }] },
        { op: '>', args: [{ property: 'comments' }, 3] },
      ],
    }
    const birth = await bornOf(filter)
    expect(birth.takes).toEqual([
      {
        title: 'Assignee',
        handle: 'assignee',
        value: expect.objectContaining({ title: 'Mara Thiel' }),
      },
    ])
    expect(birth.unmet).toEqual(['comments is more than 3'])
    expect(birth.projects.map(({ id }) => id)).toEqual(['pr_yard'])
  })

  it('has the project and the type that were chosen, where they are on offer', async () => {
    const birth = await bornOf(true, { project: 'pr_pier' })
    expect(birth.project).toBe('pr_pier')
    const other = birth.types.at(-1)!.id
    expect((await bornOf(true, { project: 'pr_pier', type: other })).type).toBe(other)
    expect((await bornOf(true, { project: 'pr_none' })).project).not.toBe('pr_none')
  })

  it('is nothing for a viewer, and a filter that cannot be read is told', async () => {
    expect((await ida('POST', '/items/born', { filter: true })).status).toBe(403)
    const { status, body } = await mara('POST', '/items/born', {
      filter: { op: '=', args: [{ property: 'colour' }, 1] },
    })
    expect([status, body.errors[0].pointer]).toEqual([400, '/filter/args/0'])
  })
})
