import { expect, it } from 'vitest'
import { findItems } from '../src/parts/findItems.ts'
import { anItem } from './answers.ts'
import { type Reply, serve } from './page.ts'

const answers = (...refs: string[]): Reply => ({
  body: {
    items: refs.map((ref) => anItem({ ref })),
    total: refs.length,
    cannotTell: 0,
    next: null,
  },
})
/** Answers a search by ref with the item where it is now. */
const found =
  (now: string) =>
  ({ body }: { readonly body: unknown }): Reply =>
    JSON.stringify(body).includes(now) ? answers(now) : answers()
const gone = (more: object): Reply => ({
  status: 404,
  body: { title: 'Not found', status: 404, detail: 'There is no such item.', ...more },
})

it('finds an item by the ref it has, whatever its letters', async () => {
  const asked = serve({ 'POST /items/search': found('YARD/12') })
  expect(await findItems('yard/12', 5)).toMatchObject([{ ref: 'YARD/12' }])
  expect(asked.length).toBe(1)
})

it('finds an item by the ref it had before it went to another project', async () => {
  serve({
    'POST /items/search': found('APPS/7'),
    'GET /items/YARD/12': gone({ moved: 'APPS/7' }),
  })
  expect(await findItems('YARD/12', 5)).toMatchObject([{ ref: 'APPS/7' }])
})

it.each([
  ['that names nothing', gone({})],
  ['of a trip that broke', { status: 503, body: gone({}).body }],
])('finds nothing by a ref %s', async (_, reply) => {
  serve({ 'POST /items/search': answers(), 'GET /items/YARD/12': reply })
  expect(await findItems('YARD/12', 5)).toEqual([])
})
