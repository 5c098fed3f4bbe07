import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareDirectory, type KnownPerson } from './compare.ts'
import { readDirectory } from './read.ts'

const lines = (...rows: string[]) =>
  rows.map((row, index) => ({ line: index + 1, cells: row.split(',') }))

describe('a directory', () => {
  it('is read by its headings, in any order and case; what else stands in it is passed over', () => {
    const read = readDirectory(
      lines('Floor,EMAIL,Name,role', '2, Ann.Reed@x.example ,Ann Reed,Member', '1,b@x.example,Bo,'),
    )
    expect(read).toEqual({
      problems: [],
      entries: [
        { name: 'Ann Reed', email: 'ann.reed@x.example', role: 'member' },
        { name: 'Bo', email: 'b@x.example', role: null },
      ],
    })
  })

  it('tells what is wrong with a line, and takes the others', () => {
    const read = readDirectory(
      lines(
        'name,email,role',
        ',a@x.example,',
        'Bo,nowhere,',
        'Cy,c@x.example,chief',
        'Di,C@x.example,',
      ),
    )
    expect(read.problems.map(({ line, column }) => [line, column])).toEqual([
      [2, 'name'],
      [3, 'email'],
      [4, 'role'],
      [5, 'email'],
    ])
    expect(read.entries).toEqual([])
    expect(readDirectory(lines('name,mail', 'Bo,b@x.example')).problems[0]!.message).toContain(
      'no column “email”',
    )
    expect(readDirectory([]).problems).toHaveLength(2)
  })
})

const person = (id: string, more: Partial<KnownPerson> = {}): KnownPerson => ({
  id,
  email: `${id}@x.example`,
  name: id,
  role: 'member',
  active: true,
  ...more,
})

describe('the directory beside the people', () => {
  it('tells who joins, who is otherwise, who is gone', () => {
    const people = [person('a'), person('b'), person('c', { active: false }), person('d')]
    const entries = [
      { email: 'a@x.example', name: 'a', role: null },
      { email: 'b@x.example', name: 'Bee', role: 'viewer' as const },
      { email: 'c@x.example', name: 'c', role: null },
      { email: 'e@x.example', name: 'e', role: null },
    ]
    const found = compareDirectory(people, entries, true)
    expect(found.joins).toEqual([{ email: 'e@x.example', name: 'e', role: 'member' }])
    expect(found.differs.map(({ id, after }) => [id, after])).toEqual([
      ['b', { name: 'Bee', role: 'viewer', active: true }],
      ['c', { name: 'c', role: 'member', active: true }],
    ])
    expect(found.gone.map(({ id }) => id)).toEqual(['d'])
    expect(found.same).toBe(1)
    expect(compareDirectory(people, entries, false).gone).toEqual([])
  })

  it('once taken over, nothing is left to take over', () => {
    const role = fc.constantFrom('viewer' as const, 'member' as const, 'administrator' as const)
    const email = fc.constantFrom(...'abcdef').map((text) => `${text}@x.example`)
    const name = fc.constantFrom('Ann', 'Bo', 'Cy')
    const people = fc.uniqueArray(fc.record({ email, name, role, active: fc.boolean() }), {
      selector: (entry) => entry.email,
    })
    const entries = fc.uniqueArray(fc.record({ email, name, role: fc.option(role) }), {
      selector: (entry) => entry.email,
    })
    fc.assert(
      fc.property(people, entries, (here, listed) => {
        const known = here.map((entry) => ({ ...entry, id: entry.email }))
        const { joins, differs, gone } = compareDirectory(known, listed, true)
        const after = [
          ...known.map((entry) => ({
            ...entry,
            ...differs.find(({ id }) => id === entry.id)?.after,
            ...(gone.some(({ id }) => id === entry.id) ? { active: false } : {}),
          })),
          ...joins.map((join) => ({ ...join, id: join.email, active: true })),
        ]
        const again = compareDirectory(after, listed, true)
        expect(again).toEqual({ joins: [], differs: [], gone: [], same: listed.length })
      }),
    )
  })
})
