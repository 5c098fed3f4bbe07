import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { accenti, casei, foldsFrom, foldsToSeveral, readQuery } from '@bluestem/core/queries'
import { rows } from '../src/database/connect.ts'
import type { World } from '../src/workspace/world.ts'
import { visibleProjects } from '../src/workspace/visibility.ts'
import { cannotTellStatement, pageStatement, standingStatement } from '../src/sql/answers.ts'
import { courseStatement } from '../src/sql/measure.ts'
import type { QueryContext } from '../src/sql/statement.ts'
import { testNow } from './setup.ts'
import { copyWorkspace, personNamed, type Workspace } from './workspace.ts'

let workspace: Workspace
let world: World
let queryContext: QueryContext
beforeAll(async () => {
  workspace = await copyWorkspace()
  world = await workspace.worlds.now()
  queryContext = {
    world,
    me: 2,
    moment: testNow.getTime(),
    asOf: false,
    visible: visibleProjects(world, personNamed(world, 'Tom Okafor')),
  }
})
afterAll(async () => await workspace.close())

const conditionOf = (filter: string) => {
  const read = readQuery({ lang: 'cql2-text', filter }, world.vocabulary)
  if (!read.ok) throw new Error(read.errors[0]!.message)
  return read.value.condition
}
const page = (filter: string, more: Partial<QueryContext> = {}) =>
  pageStatement(
    { ...queryContext, ...more },
    conditionOf(filter),
    [{ property: world.vocabulary.properties.get('changed')!, direction: 'down' }],
    { limit: 10, offset: 0 },
    (alias) => [`${alias}.id`],
  )

describe('a compiled query', () => {
  const filters = [
    "title = 'Robert''); DROP TABLE item; --'",
    "title LIKE '%''; --%'",
    "CASEI(title) LIKE CASEI('%Straße''%')",
    "status = 'Open' AND estimate * 2 > 3.5",
    "assignee = me() OR raised_by IN ('Ilse Varga')",
    'due < today() AND T_INTERSECTS(created, month(0))',
    "has_label('deck', 'hull') AND days_in(status, 'In hand', week(-1)) > 1",
    "parent = 'YARD/3' OR parent.title LIKE '%winter%'",
    "changes_of(priority, INTERVAL('2026-01-01', due), 'Tom Okafor') > 0",
    "ref = 'YARD/3' AND berth IN ('North Pier 1')",
  ]

  it.each(filters)('holds no value in its text, only places: %s', (filter) => {
    const { sql, bind } = page(filter)
    expect(sql).not.toMatch(/Robert|DROP|Straße|strasse|3\.5|Varga|hull|winter|2026-|North Pier/i)
    expect(sql).not.toContain('\u0001')
    for (let place = 1; place <= bind.length; place += 1) expect(sql).toContain(`$${place}::`)
    expect(sql).not.toContain(`$${bind.length + 1}`)
  })

  it.each(filters)('runs as it is, now and as of the past: %s', async (filter) => {
    for (const asOf of [false, true]) {
      const { sql, bind } = page(filter, { asOf })
      await rows(workspace.database, sql, bind)
      const unknown = cannotTellStatement({ ...queryContext, asOf }, conditionOf(filter))
      if (unknown) await rows(workspace.database, unknown.sql, unknown.bind)
    }
  })

  it('carries the permission in every read of items, sub-selects included', () => {
    const statements = [
      page("parent.status = 'Open'"),
      page("parent = 'YARD/3'"),
      page('changes_of(status) > 0', { asOf: true }),
      page("days_in(status, 'Open') > 1"),
      page("first_into('done') IS NULL"),
      page("last_into('done') IS NULL"),
      standingStatement(
        queryContext,
        conditionOf('TRUE'),
        world.vocabulary.properties.get('status')!,
        null,
      ),
      courseStatement(
        queryContext,
        conditionOf('TRUE'),
        { figure: { kind: 'count' }, field: undefined },
        undefined,
        [testNow],
      ),
    ]
    for (const { sql } of statements) {
      const reads = sql.match(/(?:FROM|JOIN) item(?:_state)? (?!x )\w+/g)!
      // The page itself is joined back to what was already permitted, under the alias x.
      expect((sql.match(/project_id = ANY\(/g) ?? []).length, sql).toBeGreaterThanOrEqual(
        reads.length,
      )
    }
  })

  it('never counts by a window beside its limit, and needs no intarray', async () => {
    expect(page('TRUE').sql).not.toMatch(/over \(\s*\)/i)
    expect(
      await rows(workspace.database, `SELECT FROM pg_extension WHERE extname = 'intarray'`),
    ).toEqual([])
  })

  it('says nothing can be unknown where nothing can', () => {
    for (const certain of [
      "status = 'Open'",
      "has_label('ramp') OR on_hold = TRUE",
      'estimate IS NULL',
      "NOT type = 'Job'",
      "created > DATE('2026-01-01')",
      "A_CONTAINS(spare_parts, ('Pump'))",
    ])
      expect(cannotTellStatement(queryContext, conditionOf(certain)), certain).toBeUndefined()
    for (const uncertain of [
      'estimate > 1',
      'NOT due < today()',
      'tier / tier = 1',
      'assignee = me()',
      "parent.status = 'Open'",
      "first_into('done') > now()",
    ])
      expect(cannotTellStatement(queryContext, conditionOf(uncertain)), uncertain).toBeDefined()
  })
})

describe('folding in SQL', () => {
  const texts = [
    'Straße',
    'STRASSE',
    'ΟΔΟΣ',
    'οδός',
    'İstanbul',
    'ﬁne',
    'K (Kelvin K)',
    'ŉ',
    'Ǆ ǅ ǆ',
    'ẞ',
    'Ꭰ ꭰ',
    '𐐀 𐐨',
    'éÉ e\u0301',
    'Ø ø Å',
    'ガ',
    'й',
    'plain ASCII',
    '',
  ]
  it.each(texts)('is the core’s folding: %s', async (text) => {
    const [folded] = await rows<{ casei: string; accenti: string }>(
      workspace.database,
      'SELECT casei($1::text) AS casei, accenti($1::text) AS accenti',
      [text],
    )
    expect(folded).toEqual({ casei: casei(text), accenti: accenti(text) })
  })

  it('folds every character that folds, alone among others', async () => {
    const texts = [...foldsFrom, ...foldsToSeveral.map(([from]) => from)].map(
      (text) => `a${text}B’`,
    )
    const found = await rows<{ text: string; folded: string }>(
      workspace.database,
      'SELECT text, casei(text) AS folded FROM unnest($1::text[]) AS text',
      [texts],
    )
    expect(found.filter(({ text, folded }) => folded !== casei(text))).toEqual([])
    expect(found).toHaveLength(texts.length)
  })
})

describe('arithmetic in SQL', () => {
  it.each<[string, string, string, string | null]>([
    ['a power', '2', '10', '1024'],
    ['a root of a negative number', '-8', '0.5', null],
    ['zero to a negative power', '0', '-1', null],
    ['zero to zero', '0', '0', '1'],
    ['a power beyond any figure', '10', '2000', null],
    ['a power below any figure', '10', '-2000', null],
  ])('%s is a number or unknown, never an error', async (_, base, exponent, expected) => {
    const [row] = await rows<{ power: string | null }>(
      workspace.database,
      'SELECT power_or_null($1::numeric, $2::numeric) AS power',
      [base, exponent],
    )
    expect(row!.power === null ? null : String(Number(row!.power))).toBe(expected)
  })
})

describe('the world', () => {
  it('is read anew when something living changed, and only then', async () => {
    const before = await workspace.worlds.now()
    expect(await workspace.worlds.now()).toBe(before)
    await rows(
      workspace.database,
      `INSERT INTO label (identity, title) VALUES ('la_new', 'brand new') RETURNING id`,
    )
    const after = await workspace.worlds.now()
    expect(after).not.toBe(before)
    expect(after.vocabulary.choices('label').map((label) => label.name)).toContain('brand new')
  })

  it('shows an administrator every project, others the open ones and their own', () => {
    const codes = (name: string): string[] =>
      visibleProjects(world, personNamed(world, name)).map(
        (number) => world.projects.find((project) => project.number === number)!.code,
      )
    expect(codes('Mara Thiel')).toContain('CREW')
    expect(codes('Hanna Reiss')).toContain('CREW')
    expect(codes('Tom Okafor')).toEqual(['YARD', 'PIER', 'FARE', 'SAFE'])
    expect(codes('Ida Lund')).not.toContain('CREW')
  })
})
