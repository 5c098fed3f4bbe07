import { addDays } from '@bluestem/core/calendar'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

const any = { 'if-match': '*' }
const make = async (type: string, more: object = {}, project = 'YARD') =>
  (await mara('POST', '/items', { project, type, title: `A ${type.toLowerCase()}`, ...more })).body
const draftOf = async (edits: object[]): Promise<Reply> =>
  await mara('POST', '/definitions/drafts', { title: 'Try', edits })
const publish = async (id: string): Promise<void> =>
  expect((await mara('POST', `/definitions/drafts/${id}/publish`, {}, any)).status).toBe(201)

/** Every item as people see it, by its ref. */
async function everything(): Promise<Map<string, string>> {
  const fields = ['ref', 'type', 'status', 'priority', 'labels', 'berth', 'rung'].join(',')
  const { items } = (await mara('POST', '/items/search', { fields, limit: 1000, sort: 'ref' })).body
  // Nobody sees the version an item is at; it names the edition.
  return new Map(
    items.map(({ etag: _etag, ...seen }: { ref: string; etag: string }) => [
      seen.ref,
      JSON.stringify(seen),
    ]),
  )
}

describe('what a draft touches is what differs after publishing, each item once', () => {
  it.each<[string, () => Promise<object[]>]>([
    [
      'two words that many items hold together',
      () =>
        Promise.resolve([
          { path: ['statuses', 'st_open', 'title'], after: 'Begun' },
          { path: ['priorities', 'pi_nuisance', 'title'], after: 'Passengers grumble' },
          { path: ['types', 'ty_defect', 'title'], after: 'Fault' },
        ]),
    ],
    [
      'a rung that moves',
      async () => {
        const { rungs } = (await mara('GET', '/definitions')).body.document.ladders.ld_operations
        return [
          {
            path: ['ladders', 'ld_operations', 'rungs'],
            after: {
              ...rungs,
              pi_risk: { order: rungs.pi_nuisance.order },
              pi_nuisance: { order: rungs.pi_risk.order },
            },
          },
        ]
      },
    ],
    [
      'one option of a field that is sent whole',
      async () => {
        const { options } = (await mara('GET', '/definitions')).body.document.fields.fi_berth
        const [first] = Object.keys(options)
        return [
          {
            path: ['fields', 'fi_berth', 'options'],
            after: { ...options, [first!]: { ...options[first!], title: 'The far pier' } },
          },
        ]
      },
    ],
  ])('%s', async (_, edits) => {
    const before = await everything()
    const draft = await draftOf(await edits())
    await publish(draft.body.id)
    const after = await everything()
    const differing = [...after].filter(([ref, shown]) => before.get(ref) !== shown).length
    expect(differing).toBeGreaterThan(0)
    expect(draft.body.touched.items).toBe(differing)
  })

  it('and of a time limit the clocks that begin to run, and those that are late at once', async () => {
    const limit = {
      order: 'z',
      title: 'Look at a defect',
      description: '',
      what: 'respond',
      allowances: [
        { urgency: 1, minutes: 60 },
        { urgency: 2, minutes: 600_000 },
        { urgency: 3, minutes: 6000 },
        { urgency: 4, minutes: 60_000 },
      ],
      ends: ['st_signed', 'st_withdrawn'],
      warnAt: 80,
    }
    const draft = await draftOf([
      { path: ['limits', 'tl_look'], after: limit },
      { path: ['rulebooks', 'rb_yard', 'entries', 'limit:tl_look'], after: {} },
    ])
    expect(draft.status).toBe(201)
    const { clocks, items } = draft.body.touched
    await publish(draft.body.id)
    const refs = [...(await everything()).keys()].filter((ref) => /^(YARD|PIER)/.test(ref))
    // One after the other, for nobody may have many questions answered at once.
    const shown: (string | undefined)[] = []
    for (const ref of refs) {
      const { limits } = (await mara('GET', `/items/${ref}`)).body
      shown.push(limits.find((limit: { id: string }) => limit.id === 'tl_look')?.state)
    }
    const running = shown.filter(
      (state) => state === 'running' || state === 'standing still' || state === 'passed',
    ).length
    expect(running).toBeGreaterThan(3)
    expect([clocks, items]).toEqual([
      { running, late: shown.filter((state) => state === 'passed').length },
      running,
    ])
  })
})

describe('a template taken from an item', () => {
  it('leaves out what does not fit its rulebook, says what that was, and can be kept', async () => {
    const pack = await make('Work package', { priority: 'Sailing stopped', labels: ['ramp'] })
    await make('Job', {
      parent: pack.ref,
      components: ['Shore crane'],
      fields: { berth: 'Slipway' },
    })
    // The field goes from the form: what items hold in it stays, and a template cannot give it.
    const draft = await draftOf([
      { path: ['rulebooks', 'rb_yard', 'entries', 'form:ty_job:item:fi_berth'], after: 'out' },
    ])
    await publish(draft.body.id)
    const taken = await tom('POST', '/templates/from', { ref: pack.ref, children: true })
    expect([
      taken.status,
      taken.body.left.map((entry: { message: string }) => entry.message),
    ]).toEqual([200, [expect.stringMatching(/“Berth” is no longer on the form/)]])
    expect(taken.body.content.children[0].fields).toEqual({})
    expect(
      (
        await mara('POST', '/templates', {
          title: 'From an item',
          project: 'pr_yard',
          content: taken.body.content,
        })
      ).status,
    ).toBe(201)
  })
})

describe('groups and orders', () => {
  const evaluate = async (body: object): Promise<any> =>
    (await tom('POST', '/measures/evaluate', body)).body

  it('a group whose figure is nought is a group, now and over time', async () => {
    await make('Check', { estimate: 0, priority: 'When convenient' }, 'SAFE')
    const filter = "type = 'Check' AND project = 'SAFE'"
    expect(
      (
        await evaluate({
          filter: `${filter} AND estimate = 0`,
          figure: { kind: 'sum', field: 'estimate' },
          by: ['status'],
        })
      ).groups,
    ).toEqual([{ key: [{ id: 'st_open', title: expect.any(String) }], values: [0] }])
    const course = await evaluate({
      filter: `${filter} AND estimate = 0`,
      figure: { kind: 'sum', field: 'estimate' },
      by: ['status'],
      over: { from: '2026-11-24', to: '2026-11-25', step: 'day' },
    })
    expect([course.groups.length, course.groups[0].values.at(-1)]).toEqual([1, 0])
  })

  it('a sum over time that comes back to nothing is 0', async () => {
    const items = await Promise.all(
      ['0.1', '0.2', '0.7'].map(
        async (estimate) =>
          await make('Inspection', { estimate, title: 'Sums to nothing' }, 'SAFE'),
      ),
    )
    served.setNow(new Date('2026-11-25T11:00:00Z'))
    for (const item of items) await mara('PATCH', `/items/${item.ref}`, { estimate: null }, any)
    served.setNow(new Date('2026-11-25T12:00:00Z'))
    const { total } = await evaluate({
      filter: "title = 'Sums to nothing'",
      figure: { kind: 'sum', field: 'estimate' },
      over: { from: '2026-11-20', to: '2026-11-25', step: 'day' },
    })
    expect(total).toEqual([0, 0, 0, 0, 0, 0])
  })

  it('groups by a parent are refs by code and number, and text is ordered as sorting orders it', async () => {
    const packs = await Promise.all([1, 2, 3].map(async () => await make('Work package')))
    for (const pack of packs) await make('Job', { parent: pack.ref, title: 'Grouped' })
    const { groups } = await evaluate({
      filter: "title = 'Grouped'",
      figure: { kind: 'count' },
      by: ['parent'],
    })
    const refs = packs
      .map((pack) => pack.ref)
      .sort((a, b) => Number(a.split('/')[1]) - Number(b.split('/')[1]))
    expect(groups).toEqual(refs.map((ref) => ({ key: [{ id: ref, title: ref }], values: [1] })))
    const sorted = (
      await tom('POST', '/items/search', {
        filter: "title = 'Grouped'",
        sort: 'parent',
        fields: 'parent',
      })
    ).body.items
    expect(sorted.map((item: { parent: { id: string } }) => item.parent.id)).toEqual(refs)
    for (const reason of ['zebra', 'Äpfel', 'apple', 'Zoo'])
      await mara(
        'PATCH',
        `/items/${(await make('Job', { title: 'By reason' })).ref}`,
        { on_hold: true, hold_reason: reason },
        any,
      )
    const byText = await evaluate({
      filter: "title = 'By reason'",
      figure: { kind: 'count' },
      by: ['hold_reason'],
    })
    const bySort = (
      await tom('POST', '/items/search', {
        filter: "title = 'By reason'",
        sort: 'hold_reason',
        fields: 'hold_reason',
      })
    ).body.items
    expect(byText.groups.map((group: { key: { id: string }[] }) => group.key[0]!.id)).toEqual(
      bySort.map((item: { hold_reason: string }) => item.hold_reason),
    )
  })

  it('priorities are sorted by rung, then by urgency, then by ladder', async () => {
    const { items } = (
      await mara('POST', '/items/search', {
        filter: 'priority IS NOT NULL',
        sort: 'priority',
        fields: 'rung,urgency,priority',
        limit: 1000,
      })
    ).body
    const keys = items.map(
      (item: { rung: number | null; urgency: number }) =>
        [item.rung ?? Infinity, item.urgency] as const,
    )
    expect(keys.length).toBeGreaterThan(50)
    expect(keys).toEqual([...keys].sort(([a, b], [c, d]) => a - c || b - d))
  })

  it('a kept filter can be measured as it is kept', async () => {
    const kept = { op: '=', args: [{ property: 'project' }, 'pr_yard'] }
    expect((await evaluate({ filter: kept, kept: true, figure: { kind: 'count' } })).total[0]).toBe(
      (await tom('POST', '/items/search', { filter: "project = 'YARD'", limit: 1 })).body.total,
    )
  })
})

describe('a parent that is deleted', () => {
  it('is empty in every condition, group and order of the present, and as of before it is what it was', async () => {
    served.setNow(new Date('2026-11-24T10:00:00Z'))
    const [pack, other] = [await make('Work package', { estimate: 5 }), await make('Work package')]
    const job = await make('Job', { parent: pack.ref })
    served.setNow(new Date('2026-11-25T13:00:00Z'))
    await mara('DELETE', `/items/${pack.ref}`, undefined, any)
    const found = async (filter: string, asOf?: string): Promise<number> =>
      (
        await tom('POST', '/items/search', {
          filter: `ref = '${job.ref}' AND ${filter}`,
          limit: 1,
          ...(asOf ? { 'as-of': asOf } : {}),
        })
      ).body.total
    const cases = [
      'parent IS NULL',
      `parent = '${pack.ref}'`,
      'parent.estimate = 5',
      `parent <> '${other.ref}'`,
      `parent IN ('${pack.ref}')`,
    ]
    expect(await Promise.all(cases.map(async (filter) => await found(filter)))).toEqual([
      1, 0, 0, 0, 0,
    ])
    expect(
      await Promise.all(cases.map(async (filter) => await found(filter, '2026-11-24'))),
    ).toEqual([0, 1, 1, 1, 1])
    const grouped = async (asOf?: string) =>
      (
        await tom('POST', '/measures/evaluate', {
          filter: `ref = '${job.ref}'`,
          figure: { kind: 'count' },
          by: ['parent'],
          ...(asOf ? { asOf } : {}),
        })
      ).body.groups[0].key[0]
    expect([await grouped(), (await grouped('2026-11-24')).id]).toEqual([null, pack.ref])
  })
})

describe('roll-ups', () => {
  interface State {
    readonly id: number
    readonly parent_id: number | null
    readonly phase: number
    readonly estimate: string | null
    readonly code: string
    readonly number: number
    readonly rolled: boolean
  }

  /** What stands below each item, by walking down from it. */
  function byHand(
    states: readonly State[],
  ): Map<string, { sum: number | null; share: number | null }> {
    const children = new Map<number, State[]>()
    for (const state of states)
      if (state.parent_id !== null)
        children.set(state.parent_id, [...(children.get(state.parent_id) ?? []), state])
    const below = (id: number): State[] =>
      (children.get(id) ?? []).flatMap((child) => [child, ...below(child.id)])
    return new Map(
      states
        .filter((state) => state.rolled)
        .map((state) => {
          const all = below(state.id)
          const estimates = all.flatMap((state) =>
            state.estimate === null ? [] : [Number(state.estimate)],
          )
          const counted = all.filter((state) => state.phase !== 3)
          const share =
            counted.length === 0
              ? null
              : Math.round(
                  (1000 * counted.filter((state) => state.phase === 2).length) / counted.length,
                ) / 10
          return [
            `${state.code}/${state.number}`,
            {
              sum:
                estimates.length === 0
                  ? null
                  : estimates.reduce((sum, estimate) => sum + estimate, 0),
              share,
            },
          ]
        }),
    )
  }

  it('in filters, order and on items are what is counted by hand, now and as of moments', async () => {
    for (const asOf of [undefined, '2026-11-24', '2026-09-01', '2026-03-15']) {
      const table = asOf
        ? `item_state s WHERE s.valid_from <= '${asOf}T23:00:00Z' AND s.valid_to > '${asOf}T23:00:00Z'`
        : 'item s WHERE true'
      const states = await rows<State>(
        served.database,
        `SELECT s.id, s.parent_id, s.phase, s.estimate, p.code, s.number, t.identity IN ('ty_programme', 'ty_package') AND p.code <> 'FARE' AS rolled FROM (SELECT * FROM ${table} AND NOT s.deleted) s JOIN project p ON p.id = s.project_id JOIN item_type t ON t.number = s.type_id`,
      )
      const expected = byHand(states)
      const found = (
        await mara('POST', '/items/search', {
          filter: "type IN ('Programme', 'Work package') AND project <> 'FARE'",
          fields: 'ref,estimated_below,done_below',
          limit: 1000,
          sort: '-estimated_below',
          ...(asOf ? { 'as-of': asOf } : {}),
        })
      ).body.items as {
        ref: string
        fields: { estimated_below: number | null; done_below: number | null }
      }[]
      expect(
        new Map(
          found.map(({ ref, fields }) => [
            ref,
            { sum: fields.estimated_below, share: fields.done_below },
          ]),
        ),
      ).toEqual(expected)
      const sums = found.map((item) => item.fields.estimated_below ?? -Infinity)
      expect(sums).toEqual([...sums].sort((a, b) => b - a))
      const over = (
        await mara('POST', '/items/search', {
          filter: "estimated_below > 20 AND project <> 'FARE'",
          limit: 1,
          ...(asOf ? { 'as-of': asOf } : {}),
        })
      ).body.total
      expect(over).toBe([...expected.values()].filter(({ sum }) => sum !== null && sum > 20).length)
    }
  })

  it.each([
    'done_below > 30',
    'done_below IS NULL',
    'estimated_below > 20 AND done_below < 60',
    "NOT estimated_below > 20 AND project <> 'FARE'",
  ])('over time are one pass, and equal what each step’s end answers: %s', async (filter) => {
    const { total, steps, method } = (
      await mara('POST', '/measures/evaluate', {
        filter,
        figure: { kind: 'count' },
        over: { from: '2025-10-01', to: '2026-11-24', step: 'month' },
      })
    ).body
    expect([method, steps.length]).toEqual(['course', 14])
    for (const [index, first] of (steps as string[]).slice(1).entries()) {
      const end = addDays(first, -1)
      expect(total[index], end).toBe(
        (await mara('POST', '/items/search', { filter, limit: 1, 'as-of': end })).body.total,
      )
    }
  })
})
