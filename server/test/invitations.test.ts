import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { PersonAnswer } from '@bluestem/core/people'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { modelsOf } from '../src/database/models/models.ts'
import { testNow } from './setup.ts'
import { caller, type Caller, type Served, serveWorkspace, signIn } from './workspace.ts'

const folder = mkdtempSync(join(tmpdir(), 'bluestem-directory-'))
const directory = join(folder, 'people.csv')
let served: Served
let mara: Caller
let anybody: Caller
beforeAll(async () => {
  served = await serveWorkspace({ directory })
  mara = await served.signIn('Mara Thiel')
  anybody = caller(served.origin, {})
})
afterAll(async () => {
  await served.close()
  rmSync(folder, { recursive: true })
})

const people = async (): Promise<readonly PersonAnswer[]> =>
  (await mara('GET', '/people')).body.people
const named = async (name: string): Promise<PersonAnswer> =>
  (await people()).find((person) => person.name === name)!
const secretIn = (address: string): string => address.split('#')[1]!
const day = 86_400_000

describe('an invitation', () => {
  it('lets somebody without a password choose one, once', async () => {
    const oda = { name: 'Oda Klint', email: 'oda.klint@marrowmere.example', role: 'member' }
    const added = (await mara('POST', '/people', oda)).body
    expect(added).toMatchObject({ hasPassword: false })
    await expect(signIn(served.origin, 'Oda Klint')).rejects.toThrow('401')
    const made = await mara('POST', `/people/${added.id}/invitation`)
    expect(made.status).toBe(201)
    expect(made.body.until).toBe(new Date(testNow.getTime() + 7 * day).toISOString())
    expect(made.body.address).toMatch(/^http:\/\/127\.0\.0\.1:\d+\/welcome#[\w-]{43}$/)
    const secret = secretIn(made.body.address)
    const kept = await modelsOf(served.database).invitation.findAll({ raw: true })
    expect(JSON.stringify(kept)).not.toContain(secret)
    expect((await anybody('POST', '/invitation', { secret })).body).toEqual({
      name: 'Oda Klint',
      email: 'oda.klint@marrowmere.example',
      workspace: 'Marrowmere Ferries',
    })
    const short = await anybody('POST', '/invitation/accepted', { secret, password: 'short' })
    expect([short.status, short.body.errors[0].pointer]).toEqual([400, '/password'])
    const accepted = { secret, password: 'reed and rope' }
    expect((await anybody('POST', '/invitation/accepted', accepted)).status).toBe(201)
    const own = await signIn(served.origin, 'Oda Klint', 'reed and rope')
    expect((await own('GET', '/session')).body.person.name).toBe('Oda Klint')
    expect((await anybody('POST', '/invitation/accepted', accepted)).status).toBe(404)
    expect((await named('Oda Klint')).hasPassword).toBe(true)
  })

  it('of two who come by it at once lets one in', async () => {
    const { id } = await named('Oda Klint')
    const secret = secretIn((await mara('POST', `/people/${id}/invitation`)).body.address)
    const both = await Promise.all(
      ['first of the two', 'second of the two'].map(
        async (password) => await anybody('POST', '/invitation/accepted', { secret, password }),
      ),
    )
    expect(both.map(({ status }) => status).sort()).toEqual([201, 404])
  })

  it.each(['replaced by another', 'ended by a password', 'ended with the sign-in', 'over'])(
    'that is %s invites nobody',
    async (how) => {
      const { id } = await named('Greta Holm')
      const secret = secretIn((await mara('POST', `/people/${id}/invitation`)).body.address)
      const change = async (given: object) =>
        await mara('PATCH', `/people/${id}`, given, { 'if-match': '*' })
      if (how === 'replaced by another') await mara('POST', `/people/${id}/invitation`)
      if (how === 'ended by a password') await change({ password: 'given anew' })
      if (how === 'ended with the sign-in') await change({ active: false })
      if (how === 'over') served.setNow(new Date(testNow.getTime() + 8 * day))
      expect((await anybody('POST', '/invitation', { secret })).status).toBe(404)
      served.setNow(testNow)
      const refused = await mara('POST', `/people/${id}/invitation`)
      expect(refused.status).toBe(how === 'ended with the sign-in' ? 409 : 201)
      await change({ active: true })
    },
  )

  it('ends what its person was signed in by, and is made by administrators alone', async () => {
    const tom = await served.signIn('Tom Okafor')
    const { id } = await named('Tom Okafor')
    expect((await tom('POST', `/people/${id}/invitation`)).status).toBe(403)
    const secret = secretIn((await mara('POST', `/people/${id}/invitation`)).body.address)
    expect((await tom('GET', '/session')).status).toBe(200)
    await anybody('POST', '/invitation/accepted', { secret, password: 'chosen anew' })
    expect((await tom('GET', '/session')).status).toBe(401)
  })
})

describe('the directory', () => {
  const write = async (more: (line: string, name: string) => string, ...joins: string[]) => {
    const lines = (await people())
      .filter(({ active }) => active)
      .map((person) => more([person.name, person.email, person.role].join(','), person.name))
    writeFileSync(directory, ['name,email,role', ...lines, ...joins].filter(Boolean).join('\n'))
  }
  const same = (line: string): string => line
  const read = async () => (await mara('GET', '/directory')).body
  const none = { joins: [], differs: [], gone: [] }

  it('is told beside those who are here, and taken over as it was chosen', async () => {
    await write(
      (line, name) => {
        if (name === 'Boris Kamen') return ''
        return name === 'Rosa Quintero' ? line.replace('Rosa Quintero', 'Rosa Lind') : line
      },
      'Tarek Olin,tarek.olin@marrowmere.example,viewer',
      'Ines Pohl,ines.pohl@marrowmere.example,',
    )
    const found = await read()
    expect(found.file).toBe('people.csv')
    expect(found.joins.map(({ name, role }: PersonAnswer) => [name, role])).toEqual([
      ['Tarek Olin', 'viewer'],
      ['Ines Pohl', 'member'],
    ])
    expect(found.differs[0].after.name).toBe('Rosa Lind')
    expect(found.gone.map(({ name }: PersonAnswer) => name)).toEqual(['Boris Kamen'])
    const taken = await mara('POST', '/directory', {
      joins: ['tarek.olin@marrowmere.example'],
      differs: [found.differs[0].id],
      gone: [found.gone[0].id],
    })
    expect(taken.body).toMatchObject({ changed: 1, gone: 1, added: [{ name: 'Tarek Olin' }] })
    const secret = secretIn(taken.body.added[0].address)
    expect((await anybody('POST', '/invitation', { secret })).body.name).toBe('Tarek Olin')
    expect(await named('Rosa Lind')).toMatchObject({ active: true })
    expect(await named('Boris Kamen')).toMatchObject({ active: false })
    expect((await read()).joins.map(({ name }: PersonAnswer) => name)).toEqual(['Ines Pohl'])
  })

  it('changes nothing where it is otherwise than it was seen, or where one would shut oneself out', async () => {
    const before = await people()
    const stale = await mara('POST', '/directory', { ...none, joins: ['who@marrowmere.example'] })
    expect([stale.status, stale.body.detail]).toEqual([
      409,
      expect.stringContaining('Nothing was taken over'),
    ])
    await write((line, name) => (name === 'Mara Thiel' ? '' : line), 'An Other,an@other.example,')
    const self = await named('Mara Thiel')
    const chosen = { ...none, joins: ['an@other.example'], gone: [self.id] }
    expect((await mara('POST', '/directory', chosen)).status).toBe(409)
    expect(await people()).toEqual(before)
  })

  it('with a line that cannot be read counts nobody as gone', async () => {
    await write((line, name) => (name === 'Tom Okafor' ? 'Tom Okafor,nowhere,member' : line))
    const { gone, problems } = await read()
    expect(gone).toEqual([])
    expect(problems).toMatchObject([{ column: 'email', found: 'nowhere' }])
  })

  it('that is not there is told, and is nobody else’s to read', async () => {
    rmSync(directory)
    expect((await mara('GET', '/directory')).body.detail).toContain('there is no such file')
    const ida = await served.signIn('Ida Lund')
    expect((await ida('GET', '/directory')).status).toBe(403)
    await write(same)
    expect(await read()).toMatchObject({ ...none, problems: [] })
  })

  it('that ships for the demo is of the demo’s people', async () => {
    const demo = await serveWorkspace({
      demoDirectory: join(import.meta.dirname, '../../stand-ins/directory.csv'),
    })
    const administrator = await demo.signIn('Mara Thiel')
    const found = (await administrator('GET', '/directory')).body
    expect(found).toMatchObject({ file: 'directory.csv', same: 37, problems: [] })
    await demo.close()
  })
})
