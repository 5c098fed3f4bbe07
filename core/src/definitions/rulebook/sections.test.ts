import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { FormField } from './rulebook.ts'
import {
  addSection,
  fieldsIn,
  type FormSection,
  moveField,
  moveSection,
  renameSection,
  sectionsOf,
} from './sections.ts'

const field = (name: string, section = ''): FormField => ({
  field: name,
  section,
  required: false,
})
/** “: a b | Cost: c” for two sections. */
const told = (sections: readonly FormSection[]): string =>
  sections
    .map(({ title, fields }) => `${title}: ${fields.map((formField) => formField.field).join(' ')}`)
    .join(' | ')
const form = sectionsOf([
  field('a'),
  field('b'),
  field('c', 'Cost'),
  field('d', 'Cost'),
  field('e', 'Place'),
])

describe('a form by its sections', () => {
  it.each<[string, readonly FormSection[], string]>([
    ['as it is', form, ': a b | Cost: c d | Place: e'],
    ['a field down within its section', moveField(form, 'a', 1), ': b a | Cost: c d | Place: e'],
    ['a field over the end', moveField(form, 'b', 1), ': a | Cost: b c d | Place: e'],
    ['a field over the beginning', moveField(form, 'c', -1), ': a b c | Cost: d | Place: e'],
    ['the last field of a section', moveField(form, 'e', -1), ': a b | Cost: c d e | Place: '],
    ['the very first up', moveField(form, 'a', -1), ': a b | Cost: c d | Place: e'],
    ['the very last down', moveField(form, 'e', 1), ': a b | Cost: c d | Place: e'],
    ['a field that is not on it', moveField(form, 'x', 1), ': a b | Cost: c d | Place: e'],
    ['a heading up', moveSection(form, 2, -1), ': a b | Place: e | Cost: c d'],
    ['a heading above all', moveSection(form, 1, -1), ': a b | Cost: c d | Place: e'],
    ['what has no heading', moveSection(form, 0, 1), ': a b | Cost: c d | Place: e'],
    ['another heading', renameSection(form, 1, 'Money'), ': a b | Money: c d | Place: e'],
    ['a heading that is there', renameSection(form, 2, 'Cost'), ': a b | Cost: c d e'],
    ['no heading any more', renameSection(form, 1, ''), ': a b c d | Place: e'],
    ['a new heading', addSection(form, 'Time'), ': a b | Cost: c d | Place: e | Time: '],
    ['a heading twice', addSection(form, 'Cost'), ': a b | Cost: c d | Place: e'],
  ])('%s', (_, sections, expected) => {
    expect(told(sections)).toBe(expected)
  })

  it('gathers fields under a heading that stands in two places', () => {
    expect(told(sectionsOf([field('a', 'Cost'), field('b'), field('c', 'Cost')]))).toBe(
      ': b | Cost: a c',
    )
  })

  it('loses and doubles no field, whatever is moved', () => {
    const act = fc.oneof(
      fc.tuple(fc.constantFrom(...'abcde'), fc.constantFrom<-1 | 1>(-1, 1)).map(
        ([name, by]) =>
          (now: readonly FormSection[]) =>
            moveField(now, name, by),
      ),
      fc.tuple(fc.nat(4), fc.constantFrom<-1 | 1>(-1, 1)).map(
        ([at, by]) =>
          (now: readonly FormSection[]) =>
            moveSection(now, at, by),
      ),
      fc.tuple(fc.nat(4), fc.constantFrom('', 'Cost', 'Place', 'Time')).map(
        ([at, title]) =>
          (now: readonly FormSection[]) =>
            renameSection(now, at, title),
      ),
      fc
        .constantFrom('Cost', 'More')
        .map((title) => (now: readonly FormSection[]) => addSection(now, title)),
    )
    fc.assert(
      fc.property(fc.array(act, { maxLength: 30 }), (acts) => {
        const after = acts.reduce<readonly FormSection[]>((now, act) => act(now), form)
        const fields = fieldsIn(after)
        expect(fields.map((formField) => formField.field).sort()).toEqual([...'abcde'])
        expect(after[0]!.title).toBe('')
        expect(new Set(after.map(({ title }) => title)).size).toBe(after.length)
        const kept = after.filter(
          (formSection, place) => place === 0 || formSection.fields.length > 0,
        )
        expect(sectionsOf(fields)).toEqual(
          kept.map(({ title, fields: own }) => ({
            title,
            fields: own.map((formField) => ({ ...formField, section: title })),
          })),
        )
      }),
    )
  })
})
