import { rows } from '../server/src/database/connect.ts'
import { callerOf, type Call, timed, waitFor } from './many.ts'
import { median, show } from './measure.ts'
import { database } from './world.ts'

/** How many items the change concerns, at most, and how many single edits are timed in quiet. */
const [most, quietly] = [50_000, 150]
/** A change of fewer items is over before it can be cancelled. */
const leastToCancel = 5000
/** A value that hardly anything holds before. */
const mark = 10_000 + (Date.now() % 80_000)

interface Told {
  readonly id: string
  readonly state: string
  readonly done: number
  readonly changed: number
}

/** How many items hold the mark now. */
async function marked(): Promise<number> {
  const [found] = await rows<{ count: number }>(
    database,
    'SELECT count(*)::int AS count FROM item WHERE remaining = $1',
    [mark],
  )
  return found!.count
}

/** Looks again and again until a change is over. @returns the longest time without progress, in milliseconds */
async function follow(call: Call, id: string, isOver: (told: Told) => boolean): Promise<number> {
  let [longest, since, done] = [0, performance.now(), -1]
  await waitFor(async () => {
    const told = await call<Told>('GET', `/bulk/${id}`)
    const now = performance.now()
    longest = Math.max(longest, now - since)
    if (told.done !== done) [since, done] = [now, told.done]
    return isOver(told)
  })
  return longest
}

/** Edits single items one after the other, about ten a second. @returns how long each took */
async function edit(call: Call, refs: readonly string[], isOn: () => boolean): Promise<number[]> {
  const times: number[] = []
  for (let turn = 0; isOn(); turn += 1) {
    await new Promise((done) => setTimeout(done, 100))
    times.push(
      await timed(async () => {
        await call('PATCH', `/items/${refs[turn % refs.length]}`, { estimate: (turn % 40) / 2 })
      }),
    )
  }
  return times
}

/** Changes as many items as can be in one go while somebody else edits others, takes it back, and cancels another on its way. */
export async function besideMany(cookie: string, others: string): Promise<void> {
  const [call, other] = [callerOf(cookie), callerOf(others)]
  const found = await rows<{ ref: string }>(
    database,
    `SELECT p.code || '/' || i.number AS ref FROM item i JOIN project p ON p.id = i.project_id
    WHERE NOT i.deleted AND p.open ORDER BY i.id DESC LIMIT $1`,
    [most + quietly],
  )
  const refs = found.map(({ ref }) => ref)
  const beside = refs.slice(0, quietly)
  const items = { refs: refs.slice(quietly) }
  const change = { set: { remaining: mark } }
  const preview = await call<Told>('POST', '/items/bulk/preview', { items, change })
  const begin = async (): Promise<string> =>
    (await call<Told>('POST', '/items/bulk', { items, change, total: items.refs.length })).id

  let left = quietly
  const quiet = await edit(other, beside, () => (left -= 1) >= 0)
  const began = performance.now()
  const id = await begin()
  let isOn = true
  const busy = edit(other, beside, () => isOn)
  const longest = await follow(call, id, ({ state }) => state === 'done')
  isOn = false
  const took = (performance.now() - began) / 1000
  const meanwhile = await busy
  show('Single edits while very many items are changed / in quiet', [
    {
      what: `${items.refs.length} items in ${took.toFixed(1)} s; ${meanwhile.length} edits beside`,
      a: median(meanwhile),
      b: median(quiet),
      budget: 'below 3',
    },
  ])
  console.log(
    `  counted ahead ${preview.changed}, changed ${await marked()}; longest without progress ${longest.toFixed(0)} ms`,
  )
  const back = await timed(async () => {
    const undo = await call<Told>('POST', `/bulk/${id}/undo`)
    await follow(call, undo.id, ({ state }) => state === 'done')
  })
  console.log(`  taken back in ${(back / 1000).toFixed(1)} s; ${await marked()} left`)
  if (items.refs.length < leastToCancel)
    return console.log('  too few items for a change of them to be cancelled on its way')
  const cancelled = await begin()
  await waitFor(async () => (await marked()) > 0)
  const stopped = await timed(async () => {
    await call('DELETE', `/bulk/${cancelled}`)
    await follow(call, cancelled, ({ state }) => state === 'cancelled' || state === 'done')
  })
  console.log(
    `  cancelled on its way, over in ${(stopped / 1000).toFixed(1)} s; ${await marked()} left`,
  )
}
