import { addDays, dayOf, startOfDay } from '@bluestem/core/calendar'
import { replaceAt, replay, type DefinitionsDocument } from '@bluestem/core/definitions'
import { readQuery } from '@bluestem/core/queries'
import { connect, rows } from '../server/src/database/connect.ts'
import { Worlds } from '../server/src/workspace/world.ts'
import { askedBy, pastMoves } from '../server/src/definitions/replay.ts'
import { usageOf } from '../server/src/definitions/usage.ts'
import { cannotTellStatement, countStatement, pageStatement } from '../server/src/sql/answers.ts'
import { courseStatement } from '../server/src/sql/measure.ts'
import type { Asking } from '../server/src/sql/statement.ts'
import { sideBySide, show, type Result } from './measure.ts'

const url = process.env['BLUESTEM_BENCH_URL']!
const origin = process.env['BLUESTEM_ORIGIN']!
const database = connect(url, { statementTimeout: 0 })
const world = await new Worlds(database).now()
const today = dayOf(Date.now(), world.zone)
const asking: Asking = {
  world,
  me: 1,
  moment: Date.now(),
  asOf: false,
  visible: world.projects.map((project) => project.number),
}
const projects = `ARRAY[${asking.visible.join(',')}]::int[]`
const number = (domain: 'status' | 'type' | 'priority' | 'label', id: string): number =>
  world.numbers.of(domain, id)!
const column = (handle: string): string =>
  `f${world.numbers.of('field', Object.entries(world.document.fields).find(([, field]) => field.handle === handle)![0])}`
const conditionOf = (filter: string) => {
  const read = readQuery({ lang: 'cql2-text', filter }, world.vocabulary)
  if (!read.ok) throw new Error(read.errors[0]!.message)
  return read.value.condition
}

/** the one project on the other ladder */
const fares = world.projects.find((project) => project.code === 'FARE')!.number

/** Eight questions of different kinds, each with the statement somebody would write by hand for it. */
const questions: [string, string][] = [
  ["status = 'Waiting for parts'", `status_id = ${number('status', 'st_parts')}`],
  [
    "type = 'Defect' AND phase NOT IN ('done', 'dropped') AND rung <= 2",
    `type_id = ${number('type', 'ty_defect')} AND phase NOT IN (2, 3) AND ((project_id <> ${fares} AND priority_id IN (${number('priority', 'pi_stopped')}, ${number('priority', 'pi_risk')})) OR (project_id = ${fares} AND priority_id IN (${number('priority', 'pi_now')}, ${number('priority', 'pi_next')})))`,
  ],
  ['cost_of_parts > 500', `${column('cost_of_parts')} > 500`],
  ["has_label('ramp')", `labels @> ARRAY[${number('label', 'la_free1')}]`],
  ["CASEI(title) LIKE CASEI('%hinge%')", `lower(title) LIKE '%hinge%'`],
  ["due < today() AND phase IN ('idle', 'active')", `due_date < '${today}' AND phase IN (0, 1)`],
  [
    `created >= DATE('${addDays(today, -90)}') AND project = 'YARD'`,
    `created_at >= '${new Date(startOfDay(addDays(today, -90), world.zone)).toISOString()}' AND project_id = ${world.projects.find((project) => project.code === 'YARD')!.number}`,
  ],
  [
    '(estimate IS NULL OR estimate > 8) AND NOT on_hold = TRUE AND safety_relevant = TRUE',
    `(estimate IS NULL OR estimate > 8) AND NOT on_hold AND ${column('safety_relevant')}`,
  ],
]

async function compiledAgainstHandwritten(): Promise<void> {
  const results: Result[] = []
  for (const [filter, predicate] of questions) {
    const page = pageStatement(
      asking,
      conditionOf(filter),
      [{ property: world.vocabulary.properties.get('changed')!, direction: 'down' }],
      { limit: 100, offset: 0 },
      (alias) => [`${alias}.id`, `${alias}.title`],
    )
    const where = `project_id = ANY(${projects}) AND NOT deleted AND ${predicate}`
    const byHand = `SELECT x.id, x.title, m.total, m.changed_at FROM (SELECT id, changed_at, (SELECT count(*) FROM item WHERE ${where}) AS total FROM item WHERE ${where} ORDER BY changed_at DESC, id LIMIT 100) m JOIN item x USING (id) ORDER BY m.changed_at DESC, m.id`
    const [a, b] = await Promise.all([
      rows<{ id: number; total: number }>(database, page.sql, page.bind),
      rows<{ id: number; total: number }>(database, byHand),
    ])
    if (
      JSON.stringify(a.map((row) => [row.id, row.total])) !==
      JSON.stringify(b.map((row) => [row.id, row.total]))
    )
      throw new Error(`compiled and handwritten disagree on ${filter}`)
    const [compiled, handwritten] = await sideBySide(
      async () => await rows(database, page.sql, page.bind),
      async () => await rows(database, byHand),
      15,
    )
    results.push({ what: filter.slice(0, 57), a: compiled, b: handwritten, budget: 'at most 1.25' })
  }
  show('Compiled query / handwritten statement (100 rows and the exact total)', results)
}

async function courseAgainstCount(): Promise<void> {
  const bounds = Array.from(
    { length: 540 },
    (_, index) => new Date(startOfDay(addDays(today, index - 539), world.zone)),
  )
  const results: Result[] = []
  for (const [what, filter] of [
    ['everything', 'TRUE'],
    ['one project', "project = 'YARD'"],
    ['defects', "type = 'Defect'"],
  ] as const) {
    const condition = conditionOf(filter)
    const course = courseStatement(
      asking,
      condition,
      { figure: { kind: 'count' }, field: undefined },
      world.vocabulary.properties.get('phase')!,
      bounds,
    )
    const plain = courseStatement(
      asking,
      condition,
      { figure: { kind: 'count' }, field: undefined },
      undefined,
      bounds,
    )
    const same =
      filter === 'TRUE'
        ? 'true'
        : filter.startsWith('project')
          ? `project_id = ${world.projects.find((project) => project.code === 'YARD')!.number}`
          : `type_id = ${number('type', 'ty_defect')}`
    const one = `SELECT count(*) FROM item_state WHERE project_id = ANY(${projects}) AND NOT deleted AND ${same} AND valid_from < '${bounds.at(-1)!.toISOString()}'`
    const [a, b] = await sideBySide(
      async () => await rows(database, course.sql, course.bind),
      async () => await rows(database, one),
      7,
    )
    results.push({
      what: `540 days by phase, ${what} / one count of the same states`,
      a,
      b,
      budget: 'by phase at most 6',
    })
    const days = bounds.filter((_, index) => index % 54 === 0)
    const asked = async (): Promise<void> => {
      for (const day of days) {
        const { sql, bind } = countStatement(
          { ...asking, asOf: true, moment: day.getTime() },
          condition,
        )
        await rows(database, sql, bind)
      }
    }
    const [daily, pass] = await sideBySide(
      asked,
      async () => await rows(database, plain.sql, plain.bind),
      3,
    )
    results.push({
      what: `each day asked alone (10 days × 54) / one pass, ${what}`,
      a: daily * 54,
      b: pass,
      budget: 'at least 50',
    })
  }
  show('The course over 540 days', results)
}

async function signIn(email = 'mara.thiel'): Promise<string> {
  const response = await fetch(`${origin}/api/v1/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: `${email}@marrowmere.example`, password: 'marrowmere' }),
  })
  return response.headers.getSetCookie()[0]!.split(';')[0]!
}

async function overHttp(cookie: string): Promise<void> {
  const results: Result[] = []
  for (const [filter] of questions.slice(0, 4)) {
    const names = ['title', 'status', 'priority', 'assignee', 'changed']
    const { itemColumns } = await import('../server/src/work/row.ts')
    const page = pageStatement(
      asking,
      conditionOf(filter),
      [{ property: world.vocabulary.properties.get('changed')!, direction: 'down' }],
      { limit: 100, offset: 0 },
      itemColumns(
        asking,
        names.map((name) => world.vocabulary.properties.get(name)!),
      ),
    )
    const unknown = cannotTellStatement(asking, conditionOf(filter))
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

async function editsPerSecond(cookie: string): Promise<void> {
  const refs = (
    (await (
      await fetch(`${origin}/api/v1/items/search`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: JSON.stringify({ filter: "phase IN ('idle', 'active')", fields: 'ref', limit: 800 }),
      })
    ).json()) as { items: { ref: string }[] }
  ).items.map((item) => item.ref)
  for (const clients of [1, 8]) {
    let made = 0
    const until = performance.now() + 4000
    const began = performance.now()
    await Promise.all(
      Array.from({ length: clients }, async (_, client) => {
        for (let turn = client; performance.now() < until; turn += clients) {
          const response = await fetch(`${origin}/api/v1/items/${refs[turn % refs.length]}`, {
            method: 'PATCH',
            headers: { cookie, 'content-type': 'application/json', 'if-match': '*' },
            body: JSON.stringify({ remaining: turn % 97 }),
          })
          if (response.ok) made += 1
          await response.text()
        }
      }),
    )
    console.log(
      `  ${clients} at once: ${((made / (performance.now() - began)) * 1000).toFixed(0)} edits with history a second over HTTP`,
    )
  }
}

/** The flow of defects without its most used move, and a field that must be filled to finish. */
function stricter(): DefinitionsDocument {
  const entry = (key: string): string[] => ['rulebooks', 'rb_everyone', 'entries', key]
  return replaceAt(
    replaceAt(world.document, entry('move:ty_defect:st_open:st_hand'), undefined),
    entry('requirement:ty_defect:st_signed'),
    { requires: { filled: ['fi_found'], comment: true } },
  )
}

/** What publishing a stricter flow would have done to 100,000 moves and more; beside it, only reading the states of that time. */
async function replayOfThePast(): Promise<void> {
  const document = stricter()
  const asked = askedBy(world.document, document)
  const [{ since }] = (await rows<{ since: Date }>(
    database,
    'SELECT min(valid_from) AS since FROM (SELECT valid_from FROM item_version WHERE by_kind = 0 ORDER BY valid_from DESC LIMIT 200000) z',
  )) as [{ since: Date }]
  const replayed = async () =>
    replay(document, await pastMoves(database, world, asked, asking.visible, since))
  const [whole, states] = await sideBySide(
    replayed,
    async () =>
      await rows(
        database,
        'SELECT id, status_id, valid_from FROM item_state WHERE valid_from >= $1 ORDER BY id, valid_from',
        [since],
      ),
    3,
  )
  show('Replay of a stricter flow', [
    {
      what: `${(await replayed()).moves.toLocaleString('en')} moves judged / reading the states of that time`,
      a: whole,
      b: states,
      budget: 'under 3,000 ms for 100,000 moves',
    },
  ])
}

/** How much everything is used, and when last: what every chapter of Definitions shows. */
async function useOfEverything(): Promise<void> {
  const [used, one] = await sideBySide(
    async () => await usageOf(database, world, asking.visible),
    async () => await rows(database, 'SELECT count(*) FROM item WHERE NOT deleted'),
    5,
  )
  show('The use of everything defined / one count of all items', [
    { what: 'counted anew', a: used, b: one },
  ])
}

/** A page of 100 answers with the exact total, as it is asked by the screens. */
function pageOf(filter: string): () => Promise<unknown> {
  const { sql, bind } = pageStatement(
    asking,
    conditionOf(filter),
    [{ property: world.vocabulary.properties.get('changed')!, direction: 'down' }],
    { limit: 100, offset: 0 },
    (alias) => [`${alias}.id`],
  )
  return async () => await rows(database, sql, bind)
}

/** Searches in long texts beside those in titles, and filters on what is below beside those on what an item holds. */
async function searchesAndRollUps(): Promise<void> {
  const besides: [string, string, string, string][] = [
    [
      'CASEI(description) LIKE / the same in titles',
      "CASEI(description) LIKE CASEI('%hinge%')",
      "CASEI(title) LIKE CASEI('%hinge%')",
      'at most 3',
    ],
    [
      'description LIKE / the same in titles',
      "description LIKE '%hinge%'",
      "title LIKE '%hinge%'",
      'at most 3',
    ],
    ['estimated_below > 40 / estimate > 8', 'estimated_below > 40', 'estimate > 8', 'at most 5'],
    ['done_below < 50 / estimate > 8', 'done_below < 50', 'estimate > 8', 'at most 5'],
  ]
  const results: Result[] = []
  for (const [what, filter, plain, budget] of besides) {
    const [a, b] = await sideBySide(pageOf(filter), pageOf(plain), 7)
    results.push({ what, a, b, budget })
  }
  show('Searches in long texts and filters on what is below', results)
}

/** What one person waits for a plain question while another asks the heaviest thing allowed, over and over. */
async function besideTheHeaviest(plainly: string, heavily: string): Promise<void> {
  const post = async (cookie: string, path: string, body: object): Promise<number> => {
    const response = await fetch(`${origin}/api/v1${path}`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    await response.text()
    return response.status
  }
  const plain = async (): Promise<number> =>
    await post(plainly, '/items/search', {
      filter: "status = 'Waiting for parts'",
      sort: '-changed',
      limit: 100,
    })
  const from = addDays(today, -1099)
  const heavy = async (): Promise<number> =>
    await post(heavily, '/measures/evaluate', {
      filter:
        "done_below < 50 OR parent.status = 'Open' OR changes_of(assignee) > 2 OR days_in(status, 'Open') > 3",
      figure: { kind: 'median', field: 'estimate' },
      by: ['assignee'],
      over: { from, to: today, step: 'day' },
    })
  const [median] = await sideBySide(plain, plain, 25)
  let on = true
  let asked = 0
  const others = Array.from({ length: 8 }, async () => {
    while (on) {
      await heavy()
      asked += 1
    }
  })
  await new Promise((done) => setTimeout(done, 3000))
  const [beside] = await sideBySide(plain, plain, 25)
  on = false
  await Promise.all(others)
  show('A plain question beside somebody who asks the heaviest thing over and over / in quiet', [
    {
      what: `eight at once, ${asked} answered or told to come back`,
      a: beside,
      b: median,
      budget: 'at most 2',
    },
  ])
}

await compiledAgainstHandwritten()
await searchesAndRollUps()
await courseAgainstCount()
await replayOfThePast()
await useOfEverything()
const cookie = await signIn()
await overHttp(cookie)
await besideTheHeaviest(cookie, await signIn('tom.okafor'))
console.log('\nEdits, durable (fsync on)')
await editsPerSecond(cookie)
await database.close()
