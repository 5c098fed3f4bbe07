import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { functionNames } from '@bluestem/core/queries'
import { textOf, valueOf, type Schema } from './generated.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

const long = Boolean(process.env['BLUESTEM_LONG'])
const [requests, filters] = long ? [100_000, 20_000] : [2000, 1000]

let served: Served
let people: Caller[]
let known: string[]
let routes: { method: string; path: string; body: Schema | undefined }[]

beforeAll(async () => {
  served = await serveWorkspace()
  people = await Promise.all(
    ['Mara Thiel', 'Mara Thiel', 'Tom Okafor', 'Greta Holm', 'Ida Lund'].map(
      async (name) => await served.signIn(name),
    ),
  )
  const world = await served.worlds.now()
  const { document } = world
  const sections = [
    document.types,
    document.statuses,
    document.priorities,
    document.fields,
    document.ladders,
    document.families,
    document.linkKinds,
    document.limits,
    document.rulebooks,
  ]
  known = [
    ...sections.flatMap((section) =>
      Object.entries(section).flatMap(([id, entry]) => [id, (entry as { title: string }).title]),
    ),
    ...Object.values(document.fields).map((field) => field.handle),
    ...functionNames,
    ...world.projects.flatMap((project) => [project.id, project.code]),
    ...world.people.map((person) => person.id),
    ...world.labels.map((label) => label.id),
    ...world.components.map((component) => component.id),
    ...world.teams.map((team) => team.id),
    ...world.calendars.map((calendar) => calendar.id),
    'qu_all',
    'qu_open',
    'vi_stop',
    'vi_morning',
    'me_open',
    'da_week',
    'te_quick',
    'te_refit',
    'dr_proposal',
    'ch_proposal',
    'YARD/1',
    'PIER/2',
    'CREW/3',
    'SAFE/999',
    'status',
    'title',
    'due',
    'estimate',
    'labels',
    'parent',
    '-changed',
    'ref',
    'TRUE',
    "status = 'Open'",
    'due < today()',
    "A_OVERLAPS(labels, ('wet'))",
    '2026-03-01',
    '2026-11-25',
    '2026-03-01T08:00:00Z',
    'cql2-text',
    'cql2-json',
    'day',
    'week',
    'count',
    '*',
    '"1"',
    '1',
    '100',
  ]
  const { paths } = (await people[0]!('GET', '/openapi.json')).body as {
    paths: Record<
      string,
      Record<string, { requestBody?: { content: { 'application/json': { schema: Schema } } } }>
    >
  }
  routes = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, { requestBody }]) => ({
      method: method.toUpperCase(),
      path: path.replace('/api/v1', ''),
      body: requestBody?.content['application/json'].schema,
    })),
  )
}, 120_000)
afterAll(async () => await served.close())

interface Asked {
  readonly who: number
  readonly method: string
  readonly path: string
  readonly query: readonly (readonly [string, string])[]
  readonly match: string | undefined
  readonly key: string | undefined
  readonly body: unknown
}

const parameters = [
  'filter',
  'filter-lang',
  'sort',
  'fields',
  'limit',
  'offset',
  'cursor',
  'as-of',
  'days',
  'options',
  'before',
  'from',
  'to',
  'by',
  'act',
  'words',
] as const

/** Requests over all routes, from their schemas. */
const asked = (): fc.Arbitrary<Asked> =>
  fc.constantFrom(...routes).chain((route) => {
    const names = [...route.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!)
    const part = (name: string): fc.Arbitrary<string> =>
      name === 'code'
        ? fc.constantFrom('YARD', 'PIER', 'CREW', 'nope')
        : name === 'number' || name === 'to'
          ? fc.constantFrom('1', '2', '3', '17', '99999999999', 'x', '-1', '0', '1.5')
          : textOf(known)
    return fc.record({
      who: fc.nat({ max: 4 }),
      method: fc.constant(route.method),
      path: fc
        .tuple(...names.map(part))
        .map((parts) =>
          names.reduce(
            (path, name, index) => path.replace(`{${name}}`, encodeSafely(parts[index]!)),
            route.path,
          ),
        ),
      query:
        route.method === 'GET'
          ? fc.array(fc.tuple(fc.constantFrom(...parameters), textOf(known)), { maxLength: 3 })
          : fc.constant([]),
      match: fc.constantFrom(undefined, '*', '*', '*', '"1"', '"x"', 'W/"1"'),
      key: fc.constantFrom(undefined, undefined, 'again', 'x'.repeat(300)),
      body: route.body ? valueOf(route.body, known) : fc.constantFrom(undefined, {}),
    })
  })

const encodeSafely = (text: string): string =>
  encodeURIComponent(Buffer.from(text).toString()).slice(0, 2000) || 'x'

// A request that runs into the server's own limit of time answers 503, which fails here too.
describe('no request is answered by a defect or by a limit of time', () => {
  it(`${requests} requests from the schemas of all routes`, { timeout: 7_200_000 }, async () => {
    const seen = new Map<string, number>()
    await fc.assert(
      fc.asyncProperty(asked(), async ({ who, method, path, query, match, key, body }) => {
        const address = `${path}${query.length > 0 ? `?${query.map(([name, value]) => `${name}=${encodeSafely(value)}`).join('&')}` : ''}`
        const answer = await people[who]!(method, address, method === 'GET' ? undefined : body, {
          ...(match === undefined ? {} : { 'if-match': match }),
          ...(key === undefined ? {} : { 'idempotency-key': key }),
        })
        seen.set(
          `${Math.floor(answer.status / 100)}xx`,
          (seen.get(`${Math.floor(answer.status / 100)}xx`) ?? 0) + 1,
        )
        expect(
          answer.status,
          `${method} ${address} answered ${JSON.stringify(answer.body).slice(0, 500)}`,
        ).toBeLessThan(500)
      }),
      { numRuns: requests, seed: 20261127, endOnFailure: true },
    )
    // Requests that are all turned away at the door would prove little.
    expect(seen.get('2xx') ?? 0).toBeGreaterThan(requests / 20)
    expect(seen.get('4xx') ?? 0).toBeGreaterThan(requests / 20)
  })

  it(
    `${filters} texts of the query language, as they are typed and as nobody would`,
    { timeout: 3_600_000 },
    async () => {
      const word = fc.constantFrom(
        'AND',
        'OR',
        'NOT',
        '(',
        ')',
        ',',
        '=',
        '<>',
        '<',
        '>=',
        'LIKE',
        'IN',
        'BETWEEN',
        'IS',
        'NULL',
        'IS NOT NULL',
        '+',
        '-',
        '*',
        '/',
        '^',
        'div',
        '%',
        "'x'",
        "'%x\\'",
        '1',
        '1e400',
        '0',
        "DATE('2026-01-01')",
        "TIMESTAMP('2026-01-01T00:00:00Z')",
        "INTERVAL('2026-01-01','..')",
        'T_DURING(',
        'T_INTERSECTS(',
        'A_OVERLAPS(',
        'A_CONTAINS(',
        'CASEI(',
        'ACCENTI(',
        'parent.status',
        'parent',
        'estimate',
        'title',
        'labels',
        'due',
        'status',
        'created',
        'harm',
        'done_below',
        'days_in(status,',
        'changes_of(status',
        "first_into('done')",
        'me()',
        'now()',
        'today()',
        'days_ago(',
        'week(',
        '"',
        "'",
        '\\',
        ';',
        '--',
        '\u0000',
      )
      const typed = fc.array(word, { minLength: 1, maxLength: 14 }).map((words) => words.join(' '))
      const clause = fc.constantFrom(
        "status = 'Open'",
        'estimate > 3',
        'estimate / remaining > 1',
        'estimate ^ remaining > 1',
        "CASEI(title) LIKE CASEI('%RAMP%')",
        "description LIKE '%a%'",
        'due IS NULL',
        'done_below < 50',
        'harm > 10',
        "parent = 'YARD/3'",
        'parent IS NULL',
        'parent.estimate > 1',
        'created > days_ago(30)',
        "days_in(status, 'Open') > 2",
        'changes_of(assignee) > 1',
        'T_DURING(INTERVAL(start, due), year(0))',
        "A_OVERLAPS(labels, ('ramp'))",
        'iteration_offset = 0',
        "last_into('done') > days_ago(9)",
      )
      const joined = fc
        .array(fc.tuple(clause, fc.constantFrom(' AND ', ' OR ', ' AND NOT ', ' OR NOT ')), {
          minLength: 1,
          maxLength: 12,
        })
        .map((parts) => parts.map(([text, join]) => text + join).join('') + 'TRUE')
      let answered = 0
      await fc.assert(
        fc.asyncProperty(
          fc.oneof(typed, joined, textOf(known)),
          fc.constantFrom('/queries/check', '/items/search', '/items/search', '/measures/evaluate'),
          fc.constantFrom(undefined, undefined, '2026-05-01'),
          async (filter, path, asOf) => {
            const body =
              path === '/queries/check'
                ? { filter }
                : path === '/items/search'
                  ? {
                      filter,
                      limit: 3,
                      sort: '-done_below,parent',
                      ...(asOf ? { 'as-of': asOf } : {}),
                    }
                  : { filter, figure: { kind: 'count' }, by: ['status'], ...(asOf ? { asOf } : {}) }
            const answer = await people[2]!('POST', path, body)
            if (answer.status === 200) answered += 1
            expect(
              answer.status,
              `${path} ${filter} answered ${JSON.stringify(answer.body).slice(0, 500)}`,
            ).toBeLessThan(500)
          },
        ),
        { numRuns: filters, seed: 20261127, endOnFailure: true },
      )
      expect(answered).toBeGreaterThan(filters / 5)
    },
  )
})
