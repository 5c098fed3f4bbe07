import { queryContext, conditionOf, database, origin, world } from './world.ts'
import { type Result, show, sideBySide } from './measure.ts'
import { questions } from './statements.ts'
import { cannotTellStatement, pageStatement } from '../server/src/sql/answers.ts'
import { rows } from '../server/src/database/connect.ts'

export async function signIn(email = 'mara.thiel'): Promise<string> {
  const response = await fetch(`${origin}/api/v1/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: `${email}@marrowmere.example`, password: 'marrowmere' }),
  })
  return response.headers.getSetCookie()[0]!.split(';')[0]!
}

export async function overHttp(cookie: string): Promise<void> {
  const results: Result[] = []
  for (const [filter] of questions.slice(0, 4)) {
    const names = ['title', 'status', 'priority', 'assignee', 'changed']
    const { itemColumns } = await import('../server/src/items/row.ts')
    const page = pageStatement(
      queryContext,
      conditionOf(filter),
      [{ property: world.vocabulary.properties.get('changed')!, direction: 'down' }],
      { limit: 100, offset: 0 },
      itemColumns(
        queryContext,
        names.map((name) => world.vocabulary.properties.get(name)!),
      ),
    )
    const unknown = cannotTellStatement(queryContext, conditionOf(filter))
    const ask = async (): Promise<void> => {
      const response = await fetch(`${origin}/api/v1/items/search`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: JSON.stringify({ filter, sort: '-changed', fields: names.join(',') }),
      })
      await response.text()
    }
    const [http, sql] = await sideBySide(
      ask,
      async () =>
        await Promise.all([
          rows(database, page.sql, page.bind),
          unknown && rows(database, unknown.sql, unknown.bind),
        ]),
      21,
    )
    results.push({
      what: filter.slice(0, 57),
      a: http,
      b: sql,
      budget: `adds ${(http - sql).toFixed(1)} ms; at most 15`,
    })
  }
  show(
    'HTTP answer of 100 items / its SQL (the page with its total, and what can’t be told)',
    results,
  )
}

/** How long edits are made before they are counted, and while they are, in milliseconds. */
const [warming, counting] = [10_000, 6_000]

/** Edits one item after the other, so many at once, and tells how many a second. */
async function editFor(
  duration: number,
  clients: number,
  refs: readonly string[],
  headers: Readonly<Record<string, string>>,
): Promise<number> {
  let made = 0
  const began = performance.now()
  const client = async (first: number): Promise<void> => {
    for (let turn = first; performance.now() < began + duration; turn += clients) {
      const response = await fetch(`${origin}/api/v1/items/${refs[turn % refs.length]}`, {
        method: 'PATCH',
        headers: { 'content-type': 'application/json', 'if-match': '*', ...headers },
        body: JSON.stringify({ remaining: turn % 97 }),
      })
      if (response.ok) made += 1
      await response.text()
    }
  }
  await Promise.all(Array.from({ length: clients }, async (_, first) => await client(first)))
  return (made / (performance.now() - began)) * 1000
}

export async function editsPerSecond(cookie: string): Promise<void> {
  const refs = (
    (await (
      await fetch(`${origin}/api/v1/items/search`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: JSON.stringify({ filter: "phase IN ('idle', 'active')", fields: 'ref', limit: 800 }),
      })
    ).json()) as { items: { ref: string }[] }
  ).items.map((item) => item.ref)
  await editFor(warming, 1, refs, { cookie })
  for (const clients of [1, 8]) {
    const whole = await editFor(counting, clients, refs, { cookie })
    const minimal = await editFor(counting, clients, refs, { cookie, prefer: 'return=minimal' })
    console.log(
      `  ${clients} at once: ${whole.toFixed(0)} edits with history a second over HTTP, ${minimal.toFixed(0)} where no answer is asked for`,
    )
  }
}
