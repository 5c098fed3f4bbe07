import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let greta: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  greta = await served.signIn('Greta Holm')
})
afterAll(async () => await served.close())
const item = async (ref: string): Promise<Reply['body']> =>
  (await mara('GET', `/items/${ref}`)).body
const any = { 'if-match': '*' }
const make = async (type: string, more: object = {}, project = 'YARD', by = tom): Promise<Reply> =>
  await by('POST', '/items', { project, type, title: `A ${type}`, ...more })

describe('templates', () => {
  it('are told in their list what no longer fits, and mended', async () => {
    const [refit] = (await mara('GET', '/templates')).body.templates.filter(
      (template: { id: string }) => template.id === 'te_refit',
    )
    expect(refit.stale).toEqual([
      {
        pointer: '/children/2/fields/berth',
        message: '“Old Harbour” is no longer offered in “Where she lies”.'.replace(
          'Where she lies',
          'Berth',
        ),
        mend: 'take the value out',
      },
    ])
    expect((await greta('POST', '/templates/te_refit/mend', {}, any)).status).toBe(403)
    const mended = await tom('POST', '/templates/te_refit/mend', {}, any)
    expect([mended.status, mended.body.stale]).toEqual([200, []])
  })

  it('make an item with everything below it, links among them, days and blanks worked out', async () => {
    const made = await tom('POST', '/templates/te_refit/make', {
      project: 'YARD',
      blanks: { vessel: 'MV Petrel' },
    })
    expect([made.status, made.body.refs.length, made.body.left]).toEqual([201, 6, []])
    const top = await item(made.body.ref)
    expect([
      top.title,
      top.labels.map((label: { title: string }) => label.title),
      top.children.map((child: { title: string }) => child.title),
    ]).toEqual([
      'Winter refit of MV Petrel',
      ['winter refit'],
      ['Hull of MV Petrel', 'Engine of MV Petrel', 'Sea trial of MV Petrel'],
    ])
    // Five working days from Wednesday by the yard's calendar, which works on Saturdays.
    const layUp = await item(made.body.refs[3])
    expect([layUp.title, layUp.due, layUp.estimate, layUp.parent.id]).toEqual([
      'Lay up MV Petrel',
      '2026-12-01',
      16,
      made.body.refs[1],
    ])
    const [links] = await rows<{ count: number }>(
      served.database,
      `SELECT count(*) AS count FROM link WHERE valid_to = 'infinity'`,
    )
    expect(links!.count).toBe(2)
    expect(
      (await item(made.body.refs[4])).links.map((link: { title: string }) => link.title),
    ).toEqual(['waits for'])
  })

  it('are offered where they may be used, and a filled form may say otherwise', async () => {
    const offered = async (code: string): Promise<string[]> =>
      (await tom('GET', `/projects/${code}/offers`)).body.templates
        .map((template: { id: string }) => template.id)
        .sort()
    expect([await offered('YARD'), await offered('SAFE')]).toEqual([
      ['te_quick', 'te_refit'],
      ['te_month'],
    ])
    const made = await tom('POST', '/templates/te_quick/make', {
      project: 'YARD',
      blanks: { What: 'Hinge', vessel: 'MV Heron' },
      over: { estimate: 5, fields: { found_by: null }, project: 'FARE', type: 'ty_job' },
    })
    const entry = await item(made.body.ref)
    expect([
      entry.title,
      entry.type.id,
      entry.project.id,
      entry.estimate,
      entry.fields.found_by,
      entry.fields.safety_relevant,
    ]).toEqual(['Hinge mended on MV Heron', 'ty_defect', 'pr_yard', 5, null, false])
  })

  it('fail whole, and not half way', async () => {
    const before = await rows(served.database, 'SELECT count(*) AS count FROM item')
    const content = {
      item: { title: 'Top', type: 'ty_package', values: {}, fields: {} },
      children: [
        { key: 'a', title: 'A', type: 'ty_job', values: {}, fields: {} },
        { key: 'b', title: 'B', type: 'ty_job', values: {}, fields: {} },
      ],
      links: [
        { kind: 'lk_waits', from: 'a', to: 'b' },
        { kind: 'lk_waits', from: 'b', to: 'a' },
      ],
    }
    const made = await tom('POST', '/templates', {
      title: 'In a circle',
      project: 'pr_yard',
      content,
    })
    expect(made.status).toBe(201)
    expect(
      (await tom('POST', `/templates/${made.body.id}/make`, { project: 'YARD' })).body.detail,
    ).toContain('would close a circle of “waits for”')
    expect(
      (await tom('POST', '/templates/te_refit/make', { project: 'FARE' })).body.detail,
    ).toContain('does not fit Fares and Passenger Apps')
    expect(await rows(served.database, 'SELECT count(*) AS count FROM item')).toEqual(before)
  })

  it('fill what is empty on an item, or replace, with a look before', async () => {
    const {
      body: { ref },
    } = await make('Defect', { estimate: 4, priority: 'When convenient' })
    const look = await tom('POST', '/templates/te_quick/apply', { ref, how: 'fill', keep: false })
    expect([look.body.values, look.body.fields, look.body.kept]).toEqual([
      { assignee: 'pe_02' },
      { found_by: 'op_found01', safety_relevant: false },
      false,
    ])
    expect((await item(ref)).assignee).toBeNull()
    expect(
      (await tom('POST', '/templates/te_quick/apply', { ref, how: 'replace', keep: true })).status,
    ).toBe(428)
    await tom('POST', '/templates/te_quick/apply', { ref, how: 'replace', keep: true }, any)
    const after = await item(ref)
    expect([
      after.assignee.id,
      after.priority.title,
      after.estimate,
      after.fields.found_by.title,
    ]).toEqual(['pe_02', 'Passenger nuisance', 1, 'Crew on board'])
  })

  it('are made from an item that exists, with what stands below it', async () => {
    const top = await make('Work package', { priority: 'Sailing at risk', labels: ['la_free4'] })
    await make('Job', { parent: top.body.ref, estimate: 7 })
    const { content } = (
      await tom('POST', '/templates/from', { ref: top.body.ref, children: true })
    ).body
    expect(content).toEqual({
      item: {
        title: 'A Work package',
        type: 'ty_package',
        values: { priority: 'pi_risk', labels: ['la_free4'] },
        fields: {},
      },
      children: [
        {
          key: 'c1',
          title: 'A Job',
          type: 'ty_job',
          values: { priority: 'pi_convenient', estimate: 7 },
          fields: {},
        },
      ],
      links: [],
    })
    const made = await tom('POST', '/templates', {
      title: 'As it was',
      project: 'pr_yard',
      content,
    })
    expect([
      made.status,
      (await greta('POST', '/templates', { title: 'x', rulebook: 'rb_yard', content })).status,
    ]).toEqual([201, 403])
    expect((await tom('POST', '/templates', { title: 'x', content })).status).toBe(400)
  })
})
