import { Ajv2020 } from 'ajv/dist/2020.js'
import { describe, expect, it } from 'vitest'
import {
  DefinitionsDocument,
  emptyDocument,
  entriesOf,
  inOrder,
  replaceAt,
  sections,
  validate,
} from '../definitions/index.ts'
import { starters, takeOver } from './index.ts'

const judge = new Ajv2020({ allErrors: true }).compile(DefinitionsDocument)
const load = async (id: string): Promise<DefinitionsDocument> =>
  await starters.find((starter) => starter.id === id)!.load()

describe('a starter rulebook', () => {
  it.each(starters.map((starter) => starter.id))(
    '%s is a sound file of definitions',
    async (id) => {
      const document = await load(id)
      expect(judge(document), JSON.stringify(judge.errors)).toBe(true)
      expect(validate(document)).toEqual([])
      for (const entry of sections.flatMap((section) =>
        Object.values<{ description: string }>(document[section]),
      ))
        expect(entry.description, JSON.stringify(entry)).not.toBe('')
    },
  )

  it.each(starters.map((starter) => starter.id))(
    '%s lets every type come from its start to an end',
    async (id) => {
      const document = await load(id)
      const [rulebook] = inOrder(document.rulebooks)
      const keys = [...entriesOf(document, rulebook!.id).keys()]
      for (const type of Object.keys(document.types)) {
        const start = rulebook!.entries[`type:${type}`]
        const reached = new Set(start === 'out' ? [] : [start!.start!])
        for (const from of reached)
          for (const key of keys)
            if (key.startsWith(`move:${type}:${from}:`)) reached.add(key.split(':')[3]!)
        const statuses = keys
          .filter((key) => key.startsWith(`status:${type}:`))
          .map((key) => key.split(':')[2]!)
        expect([...reached].sort(), type).toEqual(statuses.sort())
        expect(
          [...reached].some((text) => document.statuses[text]!.phase === 'done'),
          type,
        ).toBe(true)
      }
    },
  )
})

describe('taking a starter over', () => {
  const pairs = starters.flatMap((starter) =>
    starters.map((other) => [starter.id, other.id] as const),
  )

  it.each(pairs)(
    '%s and then %s gives a sound document in which the first is as it was',
    async (text, other) => {
      const first = takeOver(emptyDocument, await load(text))
      const both = takeOver(first, await load(other))
      expect(validate(both)).toEqual([])
      for (const section of sections) expect(both[section]).toMatchObject(first[section])
      expect(Object.keys(both.rulebooks)).toHaveLength(text === other ? 1 : 2)
      // Once more changes nothing.
      expect(takeOver(both, await load(other))).toEqual(both)
    },
  )

  it('shares what has the same title and means the same, and tells apart what does not', async () => {
    const repairs = takeOver(emptyDocument, await load('repairs-and-upkeep'))
    const both = takeOver(repairs, await load('software-in-iterations'))
    const titled = (section: 'types' | 'priorities' | 'fields', title: string): string[] =>
      Object.entries<{ title: string }>(both[section])
        .filter(([, entry]) => entry.title.startsWith(title))
        .map(([id]) => id)
    expect(titled('types', 'Defect')).toEqual(['ty_repdefect'])
    expect(both.rulebooks['rb_sofmain']!.entries['type:ty_repdefect']).toEqual({
      start: 'st_sofnoted',
    })
    // A question of the same name that means another urgency stays one of its own.
    const other = replaceAt(repairs, ['priorities', 'pi_repday', 'title'], 'Later')
    const apart = takeOver(
      replaceAt(other, ['priorities', 'pi_repday', 'urgency'], 4),
      await load('software-in-iterations'),
    )
    expect(apart.priorities['pi_soflater']!.title).toBe('Later (Software in iterations)')
    expect(validate(apart)).toEqual([])
    const field = { ...repairs.fields['fi_represult']!, title: 'Another', handle: 'answer' }
    const clash = takeOver(
      replaceAt(repairs, ['fields', 'fi_represult'], field),
      await load('software-in-iterations'),
    )
    expect(clash.fields['fi_sofanswer']!.handle).toBe('answer_2')
    expect(validate(clash)).toEqual([])
  })
})
