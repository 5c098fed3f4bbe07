import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type DefinitionsDocument, replaceAt } from '@bluestem/core/definitions'
import { runJobs } from './jobWorker.ts'
import { drafting, entry } from './drafting.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace({ mapAtOnce: 20 })
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

const { draft, change, publish, drop, count, document } = drafting(() => mara)
const work = async (at = testNow): Promise<void> => await runJobs(served, () => at)

describe('editions', () => {
  it('are compared in words, and gone back to as a draft', async () => {
    const { body } = await mara('GET', '/definitions/editions/1/compare/3')
    expect(body.changes.map((each: { words: string }) => each.words)).toEqual(
      expect.arrayContaining([
        'adds field “Wind window”',
        'renames status “Stuck” to “Waiting for parts”',
      ]),
    )
    const back = await mara('POST', '/definitions/editions/2/draft')
    expect(back.body.changes.map((each: { words: string }) => each.words)).toEqual(
      expect.arrayContaining(['retires field “Wind window”']),
    )
    expect(back.body.problems).toEqual([])
    await drop(back.body.id)
    expect((await mara('GET', '/definitions/editions/999')).status).toBe(404)
  })

  it('are published at a set time by a job, or told why not', async () => {
    const made = await draft([
      { path: ['statuses', 'st_withdrawn', 'description'], after: 'Not to be done.' },
    ])
    expect((await publish(made.body.id, { at: '2026-11-25T09:00:00Z' })).status).toBe(400)
    const set = await publish(made.body.id, { at: '2026-11-25T12:00:00Z', note: 'At noon.' })
    expect([set.status, set.body.schedule]).toEqual([
      202,
      { at: '2026-11-25T12:00:00.000Z', by: 'Mara Thiel', note: 'At noon.' },
    ])
    await work()
    expect((await mara('GET', `/definitions/drafts/${made.body.id}`)).status).toBe(200)
    await work(new Date('2026-11-25T12:00:01Z'))
    expect((await mara('GET', '/definitions')).body.edition).toMatchObject({
      note: 'At noon.',
      by: 'Mara Thiel',
    })
    const broken = await draft([
      { path: ['statuses', 'st_withdrawn', 'description'], after: 'Not.' },
    ])
    await publish(broken.body.id, { at: '2026-11-25T13:00:00Z' })
    await change(broken.body.id, { edits: [entry('rb_everyone', 'type:ty_check', {})] })
    await work(new Date('2026-11-25T13:00:01Z'))
    expect((await mara('GET', `/definitions/drafts/${broken.body.id}`)).body).toMatchObject({
      schedule: null,
      failed: expect.stringContaining('cannot be published yet') as string,
    })
    await drop(broken.body.id)
  })

  it('say what each entry was changed by last, and how much it is used', async () => {
    const { body } = await mara('GET', '/definitions/usage?options=fi_berth')
    expect(body.changed['fi_tide']).toMatchObject({
      edition: 3,
      by: 'Mara Thiel',
      note: 'The crane crew needs to know the wind it can work in.',
    })
    expect([body.items['st_open'], body.items['op_berth01'], body.items['la_free1']]).toEqual([
      await count("status = 'Open'"),
      await count("berth = 'North Pier 1'"),
      await count("A_CONTAINS(labels, ('ramp'))"),
    ])
    expect(Date.parse(body.last['fi_cost'])).toBeLessThanOrEqual(testNow.getTime())
  })
})

describe('definitions as files', () => {
  it('come back as they went, and one rulebook brings all it names', async () => {
    const whole = await document()
    expect((await mara('GET', '/definitions/file')).body).toEqual(whole)
    // Whoever does not see a project gets a file without it, and bringing that back takes nothing away.
    const his = (await tom('GET', '/definitions/file')).body
    expect(his.projects).toEqual(
      Object.fromEntries(Object.entries(whole.projects).filter(([id]) => id !== 'pr_crew')),
    )
    expect((await mara('POST', '/definitions/import', his)).body).toEqual({
      draft: null,
      changes: 0,
    })
    expect((await mara('POST', '/definitions/import', whole)).body).toEqual({
      draft: null,
      changes: 0,
    })
    const file = (await mara('GET', '/definitions/rulebooks/rb_digital')).body
    expect(Object.keys(file.definitions.rulebooks).sort()).toEqual(['rb_digital', 'rb_everyone'])
    expect((await mara('POST', '/definitions/differences', file)).body.changes).toEqual([])
  })

  it('show their differences before anything is kept, and then open a draft', async () => {
    const changed = replaceAt(
      replaceAt(await document(), ['statuses', 'st_open', 'title'], 'Fresh'),
      ['priorities', 'pi_now'],
      undefined,
    )
    const before = (await mara('GET', '/definitions/drafts')).body.drafts.length
    expect((await mara('POST', '/definitions/differences', changed)).body.changes).toMatchObject([
      { path: ['priorities', 'pi_now', 'retired'], after: true, words: 'retires priority “Now”' },
      {
        path: ['statuses', 'st_open', 'title'],
        after: 'Fresh',
        words: 'renames status “Open” to “Fresh”',
      },
    ])
    expect((await mara('GET', '/definitions/drafts')).body.drafts).toHaveLength(before)
    const made = await mara('POST', '/definitions/import', changed)
    expect([made.status, made.body.changes]).toEqual([201, 2])
    await drop(made.body.draft.id)
  })

  it.each<[string, (whole: DefinitionsDocument) => unknown, string]>([
    [
      'a wrong type',
      (whole) => replaceAt(whole, ['types', 'ty_job', 'tier'], 'high'),
      '/types/ty_job/tier',
    ],
    ['no object', () => [1, 2], ''],
    ['an unknown part', (whole) => ({ ...whole, moods: {} }), '/moods'],
    [
      'a duplicate handle',
      (whole) =>
        replaceAt(whole, ['fields', 'fi_again'], {
          ...whole.fields['fi_note'],
          title: 'Again',
          handle: 'berth',
        }),
      '/fields/fi_again/handle',
    ],
    [
      'an unknown identity',
      (whole) =>
        replaceAt(whole, ['rulebooks', 'rb_yard', 'entries', 'status:ty_defect:st_lost'], {
          order: 'z',
        }),
      '/rulebooks/rb_yard/entries/status:ty_defect:st_lost',
    ],
    [
      'a circle of extension',
      (whole) => replaceAt(whole, ['rulebooks', 'rb_everyone', 'extends'], 'rb_yard'),
      '/rulebooks/rb_everyone/extends',
    ],
    [
      'a flow that cannot be left',
      (whole) =>
        ['st_signed', 'st_open'].reduce(
          (all, to) =>
            replaceAt(
              all,
              ['rulebooks', 'rb_everyone', 'entries', `move:ty_check:st_hand:${to}`],
              undefined,
            ),
          whole,
        ),
      '/rulebooks/rb_everyone/entries/status:ty_check:st_hand',
    ],
  ])(
    'with %s are told with a pointer and what was expected, and nothing is kept',
    async (_, spoil, pointer) => {
      const [edition, drafts] = [
        (await mara('GET', '/definitions')).body.edition.number,
        (await mara('GET', '/definitions/drafts')).body.drafts.length,
      ]
      for (const path of ['/definitions/differences', '/definitions/import']) {
        const { status, body } = await mara('POST', path, spoil(await document()))
        expect(status).toBe(400)
        expect(
          body.errors.find((error: { pointer: string }) => error.pointer === pointer),
        ).toMatchObject({ message: expect.any(String), expected: expect.any(String) })
      }
      expect([
        (await mara('GET', '/definitions')).body.edition.number,
        (await mara('GET', '/definitions/drafts')).body.drafts.length,
      ]).toEqual([edition, drafts])
    },
  )

  it('never are a defect, whatever is in them', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.jsonValue({ maxDepth: 3 }),
        fc.constantFrom('types', 'fields', 'rulebooks', 'limits', 'projects', 'format'),
        async (junk, section) => {
          const whole = await document()
          for (const body of [junk, { ...whole, [section]: junk }])
            expect(
              (await mara('POST', '/definitions/differences', body ?? {})).status,
            ).toBeLessThan(500)
        },
      ),
      { numRuns: 25 },
    )
  })
})
