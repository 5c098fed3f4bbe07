import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../test/document.ts'
import { replaceAt } from '../definitions/draft/change.ts'
import { vocabularyOf } from './vocabularyOf.ts'
import { evaluate } from '../queries/evaluate.ts'
import type { Facts } from '../queries/tree/facts.ts'
import { readQuery } from '../queries/read.ts'
import { partsOf, readScore } from '../queries/score.ts'

const field = (handle: string, kind: string, more: object) => ({
  order: handle,
  title: handle,
  description: '',
  handle,
  kind,
  ...more,
})
const document = [
  field('risk', 'score', { formula: '(6 - urgency) * 2 + cost / estimate', empty: null }),
  field('worth', 'score', { formula: 'cost + remaining', empty: 0 }),
  field('below', 'roll-up', { rollUp: { how: 'sum', of: 'estimate' } }),
  field('bad', 'score', { formula: 'lost + 1' }),
].reduce(
  (all, entry) =>
    replaceAt(
      replaceAt(all, ['fields', `fi_${entry.handle}`], entry),
      ['rulebooks', 'rb_all', 'entries', `form:ty_job:item:fi_${entry.handle}`],
      { order: entry.handle },
    ),
  soundDocument,
)
const vocabulary = vocabularyOf(document, {
  projects: [{ id: 'pr_yard', code: 'YARD', title: 'Yard', calendar: null }],
  people: [],
  labels: [],
  components: [],
  iterations: [],
  releases: [],
  teams: [],
  calendars: [],
})
const holds = (filter: string, facts: Facts) => {
  const read = readQuery({ lang: 'cql2-text', filter }, vocabulary)
  if (!read.ok) throw new Error(read.errors[0]!.message)
  return evaluate(
    read.value.condition,
    [
      {
        from: 0,
        facts: { project: 'pr_yard', type: 'ty_job', ...facts },
        by: null,
        byEdition: false,
      },
    ],
    { vocabulary, zone: 'UTC', now: 0, me: null },
  )
}

describe('a score', () => {
  it.each<[string, Facts, boolean | null]>([
    ['risk = 15', { priority: 'pi_now', cost: '10', estimate: '2' }, true],
    ['risk > 15', { priority: 'pi_now', cost: '10', estimate: '2' }, false],
    ['risk = 4.5', { priority: 'pi_later', cost: '1', estimate: '2' }, true],
    ['risk > 0', { priority: 'pi_now', estimate: '2' }, null],
    ['risk > 0', { priority: 'pi_now', cost: '1', estimate: '0' }, null],
    ['risk IS NULL', { cost: '1' }, true],
    ['worth = 7', { cost: '7' }, true],
    ['worth = 0', {}, true],
    ['worth BETWEEN 8 AND 9', { cost: '7', remaining: '1.5' }, true],
    // Where the form does not have it, there is none.
    ['worth = 7', { type: 'ty_check', cost: '7' }, null],
    ['worth IS NULL', { type: 'ty_check', cost: '7' }, true],
    ['worth IS NULL', { project: 'pr_lost', cost: '7' }, true],
  ])('%s of %j is %s', (filter, facts, expected) => {
    expect(holds(filter, facts)).toBe(expected)
  })

  it('that cannot be read is no property, and one may use a roll-up', () => {
    expect([
      vocabulary.properties.has('bad'),
      vocabulary.properties.get('below')?.computed?.kind,
      vocabulary.properties.get('risk')?.changesWith,
    ]).toEqual([false, 'roll-up', ['own']])
    const read = readScore('below * 2', vocabulary)
    expect(read.ok && partsOf(read.value)).toEqual(['below'])
  })

  it.each([
    '',
    'cost +',
    'cost > 1',
    'cost = 1 AND cost',
    'lost',
    'title',
    'parent.cost',
    'risk + 1',
    "'a'",
    'cost = 0 OR cost',
    'days_ago(1)',
  ])('is not “%s”', (formula) => {
    expect(readScore(formula, vocabulary).ok).toBe(false)
  })
  it('reads what is below only in the database', () => {
    expect(() => holds('below > 1', {})).toThrow(/only SQL/)
  })
})
