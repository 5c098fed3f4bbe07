import type { NoticeAnswer } from '@bluestem/core/notices'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { run } from '../src/database/connect.ts'
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let lena: Caller
let ida: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  lena = await served.signIn('Lena Ostrow')
  ida = await served.signIn('Ida Lund')
})
afterAll(async () => await served.close())

let minutes = 0
/** Time goes on a minute with everything that is done. */
async function later<T>(act: () => Promise<T>): Promise<T> {
  minutes += 1
  served.setNow(new Date(Date.parse('2026-11-25T10:00:00Z') + minutes * 60_000))
  return await act()
}
beforeEach(async () => {
  for (const by of [mara, tom, lena, ida])
    await later(async () => await by('POST', '/notices/looked', {}))
})

async function anItem(by = tom, values = {}): Promise<string> {
  const body = { project: 'YARD', type: 'ty_defect', title: 'Ramp hinge weeps', ...values }
  const made = await later(async () => await by('POST', '/items', body))
  expect(made.status).toBe(201)
  return made.body.ref
}
const change = async (by: Caller, ref: string, body: object): Promise<void> => {
  const { status } = await later(
    async () => await by('PATCH', `/items/${ref}`, body, { 'If-Match': '*' }),
  )
  expect(status).toBe(200)
}
const say = async (by: Caller, ref: string, body: string): Promise<void> =>
  void (await later(async () => await by('POST', `/items/${ref}/comments`, { body })))
const news = async (by: Caller): Promise<readonly NoticeAnswer[]> =>
  (await by('GET', '/notices')).body.notices
const count = async (by: Caller): Promise<number> => (await by('GET', '/notices/count')).body.count
const told = ({ changes }: NoticeAnswer): string[] =>
  changes.map(
    ({ by, words }) =>
      `${by.title} ${words
        .flat()
        .map(({ text }) => text)
        .join('')}`,
  )
const idOf = async (name: string): Promise<string> =>
  (await served.worlds.now()).people.find((person) => person.name === name)!.id

describe('notices', () => {
  it('tell whoever made an item what others changed of it, the latest first, until they look', async () => {
    const ref = await anItem()
    await change(mara, ref, { title: 'Ramp hinge leaks' })
    await change(tom, ref, { due: '2026-12-01' })
    await say(mara, ref, 'Seen it.')
    const [notice, ...others] = await news(tom)
    expect(others).toEqual([])
    expect(told(notice!)).toEqual([
      'Mara Thiel said something',
      'Mara Thiel renamed it from Ramp hinge weeps to Ramp hinge leaks',
    ])
    expect(await count(tom)).toBe(1)
    const { body } = await later(async () => await tom('POST', `/items/${ref}/looked`))
    expect(body.before).toBeNull()
    expect([await news(tom), await count(tom)]).toEqual([[], 0])
    await change(mara, ref, { title: 'Ramp hinge drips' })
    expect(told((await news(tom))[0]!)).toEqual([
      'Mara Thiel renamed it from Ramp hinge leaks to Ramp hinge drips',
    ])
  })

  it('are nobody’s of what they did themselves', async () => {
    const ref = await anItem()
    await change(tom, ref, { title: 'Mine' })
    expect(await news(tom)).toEqual([])
  })

  it('reach whoever says something, and whoever is named in it', async () => {
    const ref = await anItem(mara)
    await say(mara, ref, 'Ask @Lena Ostrow, and @Nobody Known.')
    expect(told((await news(lena))[0]!)).toEqual(['Mara Thiel said something'])
    expect(await news(tom)).toEqual([])
    await say(tom, ref, 'I know.')
    await change(mara, ref, { title: 'Other' })
    expect(await count(tom)).toBe(1)
  })

  it('reach whoever an item is given to', async () => {
    const ref = await anItem(mara)
    await change(mara, ref, { assignee: await idOf('Lena Ostrow') })
    expect((await news(lena)).map((entry) => entry.ref)).toEqual([ref])
  })

  it('reach whoever chose to follow, and no longer whoever chose not to', async () => {
    const ref = await anItem(mara)
    const { body } = await tom('POST', `/items/${ref}/followers`, {
      person: await idOf('Tom Okafor'),
    })
    expect(body).toMatchObject({
      isFollowed: true,
      followers: [{ title: 'Mara Thiel' }, { title: 'Tom Okafor' }],
    })
    await change(mara, ref, { title: 'One' })
    expect(await count(tom)).toBe(1)
    await tom('DELETE', `/items/${ref}/followers/${await idOf('Tom Okafor')}`)
    expect(await count(tom)).toBe(0)
  })

  it('are told of a question’s worth at once, and seen one by one or all', async () => {
    const refs = [await anItem(), await anItem(), await anItem()]
    for (const ref of refs) await change(mara, ref, { title: 'Changed' })
    expect((await news(tom)).map((entry) => entry.ref)).toEqual(refs.toReversed())
    await later(async () => await tom('POST', '/notices/looked', { refs: [refs[0]!] }))
    expect(await count(tom)).toBe(2)
    await later(async () => await tom('POST', '/notices/looked', {}))
    expect(await count(tom)).toBe(0)
  })

  it('tell nothing of an item that is deleted, or of a project that may not be seen any more', async () => {
    const ref = await anItem()
    await change(mara, ref, { title: 'Changed' })
    await run(served.database, `UPDATE item SET deleted = TRUE WHERE title = 'Changed'`)
    expect(await count(tom)).toBe(0)
    await run(served.database, `UPDATE item SET deleted = FALSE WHERE title = 'Changed'`)
    expect(await count(tom)).toBeGreaterThan(0)
    await run(
      served.database,
      `UPDATE project SET open = FALSE WHERE code = 'YARD';
      DELETE FROM project_member m USING project p, person r
      WHERE p.id = m.project_id AND p.code = 'YARD' AND r.id = m.person_id AND r.name = 'Tom Okafor';
      UPDATE living SET version = version + 1`,
    )
    expect([await count(tom), await news(tom)]).toEqual([0, []])
    expect((await tom('GET', `/items/${ref}/followers`)).status).toBe(404)
    expect((await tom('POST', `/items/${ref}/looked`)).status).toBe(404)
    const person = await idOf('Tom Okafor')
    const refused = await mara('POST', `/items/${ref}/followers`, { person })
    expect(refused.body.errors[0].message).toBe('Tom Okafor may not see the items of Fleet Yard.')
    await run(
      served.database,
      `UPDATE project SET open = TRUE WHERE code = 'YARD'; UPDATE living SET version = version + 1`,
    )
  })

  it('lets viewers follow for themselves alone', async () => {
    const ref = await anItem(mara)
    const follow = async (name: string): Promise<number> =>
      (await ida('POST', `/items/${ref}/followers`, { person: await idOf(name) })).status
    expect([await follow('Ida Lund'), await follow('Tom Okafor')]).toEqual([200, 403])
  })
})
