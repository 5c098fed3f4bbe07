import { rows } from '../server/src/database/connect.ts'
import { changeItems } from '../server/src/items/write.ts'
import { median, show } from './measure.ts'
import { database, origin, world } from './world.ts'

/** How many items a change of many concerns here, and how many of them are changed one by one beside it. */
const [many, alone] = [10_000, 1000]

export type Call = <Answer>(method: string, path: string, body?: object) => Promise<Answer>

export const callerOf =
  (cookie: string): Call =>
  async (method, path, body) => {
    const response = await fetch(`${origin}/api/v1${path}`, {
      method,
      headers: { cookie, 'content-type': 'application/json', 'if-match': '*' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
    const text = await response.text()
    if (!response.ok) throw new Error(`${method} ${path} answered ${response.status}: ${text}`)
    return JSON.parse(text) as never
  }

export async function timed(act: () => Promise<void>): Promise<number> {
  const began = performance.now()
  await act()
  return performance.now() - began
}

/** Asks until something is over. */
export async function waitFor(isOver: () => Promise<boolean>): Promise<void> {
  while (!(await isOver())) await new Promise((done) => setTimeout(done, 100))
}

/** Changes the same items as a change of many, and an equal share of them by a statement each. */
export async function manyAgainstSingle(cookie: string): Promise<void> {
  const call = callerOf(cookie)
  const found = await rows<{ id: number; ref: string }>(
    database,
    `SELECT i.id, p.code || '/' || i.number AS ref FROM item i JOIN project p ON p.id = i.project_id
    WHERE NOT i.deleted ORDER BY i.id LIMIT $1`,
    [many],
  )
  const refs = found.map(({ ref }) => ref)
  const author = { kind: 'person', number: 1 } as const
  const bulk = async (value: number): Promise<void> => {
    const { id } = await call<{ id: string }>('POST', '/items/bulk', {
      items: { refs },
      change: { set: { remaining: value } },
      total: refs.length,
    })
    await waitFor(
      async () => (await call<{ state: string }>('GET', `/bulk/${id}`)).state === 'done',
    )
  }
  const single = async (value: number): Promise<void> => {
    for (const { id } of found.slice(0, alone))
      await changeItems(database, world, [id], { remaining: value }, author, new Date())
  }
  const [together, oneByOne]: [number[], number[]] = [[], []]
  for (let round = 1; round <= 3; round += 1) {
    together.push(await timed(async () => await bulk(round)))
    oneByOne.push(await timed(async () => await single(round + 50)))
  }
  const share = refs.length / Math.min(alone, refs.length)
  show('A change of many, judged and told / the same by single statements, which judge nothing', [
    {
      what: `${refs.length} items (the single ones from ${Math.min(alone, refs.length)})`,
      a: median(together),
      b: median(oneByOne) * share,
    },
  ])
}

/** Brings a file in as rows, beside the same items made one by one. */
export async function importAgainstMaking(cookie: string): Promise<void> {
  const call = callerOf(cookie)
  const lines = Array.from(
    { length: many },
    (_, row) => `Job,Row ${row} of a file that is brought in,Open,${(row % 40) / 2}`,
  )
  const text = ['Type,Title,Status,Estimate', ...lines].join('\r\n')
  let [checked, carried] = [0, 0]
  let id = ''
  checked = await timed(async () => {
    const taken = await call<{ id: string; reading: object }>('POST', '/imports', {
      project: 'YARD',
      name: 'rows.csv',
      text,
    })
    id = taken.id
    await call('POST', `/imports/${id}/check`, taken.reading)
  })
  carried = await timed(async () => {
    await call('POST', `/imports/${id}/carry-out`, { goodOnly: false })
    await waitFor(
      async () => (await call<{ state: string }>('GET', `/imports/${id}`)).state === 'done',
    )
  })
  const made = Math.min(alone, 300)
  const single = await timed(async () => {
    for (let row = 0; row < made; row += 1)
      await call('POST', '/items', {
        project: 'YARD',
        type: 'ty_job',
        title: `Row ${row} made by itself`,
        estimate: (row % 40) / 2,
      })
  })
  const perSecond = (milliseconds: number): string =>
    `${Math.round(many / (milliseconds / 1000))} rows a second`
  show('A file brought in / the same items made one by one over HTTP', [
    {
      what: `${many} rows read and checked, ${perSecond(checked)}`,
      a: checked,
      b: (single / made) * many,
    },
    {
      what: `${many} rows carried out, ${perSecond(carried)}`,
      a: carried,
      b: (single / made) * many,
    },
  ])
}
