import type { PersonAnswer } from '@bluestem/core/people'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Caller, type Served, serveWorkspace, signIn } from './workspace.ts'

let served: Served
let mara: Caller
const any = { 'if-match': '*' }
const nils = {
  name: 'Nils Brandt',
  email: 'Nils.Brandt@Marrowmere.example ',
  role: 'member',
  password: 'reed and rope',
}

beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
})
afterAll(async () => await served.close())

const people = async (by = mara): Promise<readonly PersonAnswer[]> =>
  (await by('GET', '/people')).body.people
const named = async (name: string): Promise<PersonAnswer> =>
  (await people()).find((person) => person.name === name)!
const change = async (name: string, given: object, match = any) =>
  await mara('PATCH', `/people/${(await named(name)).id}`, given, match)
const enter = async (name: string, password: string): Promise<Caller> =>
  await signIn(served.origin, name, password)

describe('people', () => {
  it('are added by hand with a role and a first password, and sign in by it', async () => {
    const added = await mara('POST', '/people', nils)
    expect([added.status, added.body]).toEqual([
      201,
      {
        id: expect.stringMatching(/^pe_/) as string,
        name: 'Nils Brandt',
        email: 'nils.brandt@marrowmere.example',
        role: 'member',
        active: true,
        hasPassword: true,
        version: 1,
      },
    ])
    const own = await enter('Nils Brandt', 'reed and rope')
    expect((await own('GET', '/session')).body.person).toMatchObject({ name: 'Nils Brandt' })
    // Who may not add people does not learn how others sign in.
    expect((await people(own)).find((person) => person.name === 'Mara Thiel')).toEqual({
      id: expect.any(String) as string,
      name: 'Mara Thiel',
      role: 'administrator',
      active: true,
    })
    const made = await own('POST', '/items', { project: 'YARD', type: 'Job', title: 'First' })
    expect(made.status).toBe(201)
    expect((await own('POST', '/people', { ...nils, email: 'a@b.example' })).status).toBe(403)
  })

  it.each([
    ['an address somebody has', { email: 'tom.okafor@MARROWMERE.example' }, '/email', 'Tom Okafor'],
    ['a name of blanks', { name: '  ', email: 'x@y.example' }, '/name', 'needs a name'],
    [
      'a password that is too short',
      { email: 'x@y.example', password: '1234567' },
      '/password',
      '',
    ],
    ['what is no address', { email: 'nobody' }, '/email', ''],
    ['a role there is not', { email: 'x@y.example', role: 'owner' }, '/role', ''],
  ])('are not added with %s', async (_, wrong, pointer, words) => {
    const before = await people()
    const { status, body } = await mara('POST', '/people', { ...nils, ...wrong })
    expect(status).toBe(400)
    expect(body.errors.map((error: { pointer: string }) => error.pointer)).toContain(pointer)
    expect(JSON.stringify(body)).toContain(words)
    expect(await people()).toEqual(before)
  })

  it('are changed by the version one read, and a new role holds from the next request on', async () => {
    const { version } = await named('Nils Brandt')
    const own = await enter('Nils Brandt', 'reed and rope')
    const changed = await change('Nils Brandt', { role: 'viewer' }, { 'if-match': `"${version}"` })
    expect(changed.body).toMatchObject({ role: 'viewer', version: version! + 1 })
    expect(
      (await own('POST', '/items', { project: 'YARD', type: 'Job', title: 'No' })).status,
    ).toBe(403)
    expect(
      (await change('Nils Brandt', { role: 'member' }, { 'if-match': `"${version}"` })).status,
    ).toBe(412)
    expect((await named('Nils Brandt')).role).toBe('viewer')
  })

  it('are signed out at once when they are deactivated, and keep their name in history', async () => {
    const own = await enter('Nils Brandt', 'reed and rope')
    expect((await change('Nils Brandt', { active: false })).body).toMatchObject({ active: false })
    expect((await own('GET', '/session')).status).toBe(401)
    await expect(enter('Nils Brandt', 'reed and rope')).rejects.toThrow('401')
    expect((await people()).at(-1)).toMatchObject({ name: 'Nils Brandt', active: false })
    expect((await mara('POST', '/people', nils)).body.errors[0].message).toContain(
      'activate them again instead',
    )
    await change('Nils Brandt', { active: true })
    expect((await (await enter('Nils Brandt', 'reed and rope'))('GET', '/session')).status).toBe(
      200,
    )
  })

  it('lose every session with a new password, but the one they changed it in', async () => {
    const [here, there] = [
      await enter('Nils Brandt', 'reed and rope'),
      await enter('Nils Brandt', 'reed and rope'),
    ]
    const wrong = await here('POST', '/session/password', {
      before: 'guess',
      after: 'tar and tallow',
    })
    expect([wrong.status, wrong.body.errors[0].pointer]).toEqual([400, '/before'])
    expect(
      (
        await here('POST', '/session/password', {
          before: 'reed and rope',
          after: 'tar and tallow',
        })
      ).status,
    ).toBe(204)
    expect([
      (await here('GET', '/session')).status,
      (await there('GET', '/session')).status,
    ]).toEqual([200, 401])
    await expect(enter('Nils Brandt', 'reed and rope')).rejects.toThrow('401')
    await change('Nils Brandt', { password: 'given anew' })
    expect((await here('GET', '/session')).status).toBe(401)
    await enter('Nils Brandt', 'given anew')
    const { acts } = (await mara('GET', '/audit?words=person')).body
    expect(JSON.stringify(acts)).not.toMatch(/given anew|tallow/)
  })

  it('leave somebody who may add people, also when two leave at once', async () => {
    expect((await change('Mara Thiel', { role: 'member' })).status).toBe(409)
    expect((await change('Mara Thiel', { active: false })).status).toBe(409)
    await change('Nils Brandt', { role: 'administrator' })
    const both = await Promise.all([
      change('Mara Thiel', { role: 'member' }),
      change('Nils Brandt', { role: 'member' }),
    ])
    expect(both.map((reply) => reply.status).sort()).not.toEqual([200, 200])
    const left = (await people()).filter((person) => person.role === 'administrator')
    expect(left).toHaveLength(1)
    const by = left[0]!.name === 'Mara Thiel' ? mara : await enter('Nils Brandt', 'given anew')
    await by('PATCH', `/people/${(await named('Mara Thiel')).id}`, { role: 'administrator' }, any)
  })
})

describe('the members of a project', () => {
  it('see it while it is closed, and no longer once they are taken out', async () => {
    const [tom, greta] = [await served.signIn('Tom Okafor'), await served.signIn('Greta Holm')]
    const id = async (name: string): Promise<string> => (await named(name)).id
    const made = await mara('POST', '/projects', {
      title: 'Winter berths',
      code: 'BERTH',
      rulebook: 'rb_yard',
      open: false,
      members: [await id('Tom Okafor')],
    })
    expect(made.status).toBe(201)
    const sees = async (by: Caller): Promise<boolean> =>
      (await by('GET', '/projects')).body.projects.some(
        (project: { code: string }) => project.code === 'BERTH',
      )
    expect([await sees(tom), await sees(greta)]).toEqual([true, false])
    const address = `/projects/${made.body.id}`
    const members = [await id('Mara Thiel'), await id('Greta Holm')]
    await mara('PATCH', address, { members, keepers: [await id('Mara Thiel')] }, any)
    expect([await sees(tom), await sees(greta)]).toEqual([false, true])
    const wrong = await mara('PATCH', address, { members: ['pe_nobody'] }, any)
    expect([wrong.status, wrong.body.errors[0].pointer]).toEqual([400, '/members/0'])
    await mara('PATCH', address, { open: true }, any)
    expect(await sees(tom)).toBe(true)
  })
})
