import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../test/document.ts'
import type { WorkRules } from '../work/rules.ts'
import { vocabulary } from '../../test/vocabulary.ts'
import { changeFor } from './change.ts'
import { Refusals } from './preview.ts'
import type { BulkChange } from './schema.ts'
import { bulkInWords } from './words.ts'

/** What matters here of the rules: which statuses a type has. */
const rules = { document: soundDocument } as WorkRules
const item = {
  project: 'pr_yard',
  type: 'ty_job',
  status: 'st_open',
  labels: ['la_a', 'la_b'],
  gear: ['op_x'],
}

describe('a change of many items is for one of them', () => {
  const cases: readonly [string, BulkChange, object][] = [
    ['what all of them get', { set: { assignee: 'pe_tom' } }, { assignee: 'pe_tom' }],
    [
      'what is added, beside what it holds',
      { add: { labels: ['la_c'] } },
      { labels: ['la_a', 'la_b', 'la_c'] },
    ],
    ['nothing twice', { add: { labels: ['la_a'] } }, { labels: ['la_a', 'la_b'] }],
    ['without what is taken away', { remove: { labels: ['la_a', 'la_z'] } }, { labels: ['la_b'] }],
    [
      'both at once',
      { add: { labels: ['la_c'] }, remove: { labels: ['la_a'] } },
      { labels: ['la_b', 'la_c'] },
    ],
    [
      'a field of several values',
      { add: { gear: ['op_y'] } },
      { fields: { gear: ['op_x', 'op_y'] } },
    ],
    [
      'another type with the status that was chosen for its own',
      { set: { type: 'ty_check' }, statuses: { st_open: 'st_new' } },
      { type: 'ty_check', status: 'st_new' },
    ],
    [
      'its own status, where the flow of the type has it',
      { set: { type: 'ty_job' }, statuses: { st_open: 'st_new' } },
      { type: 'ty_job' },
    ],
    [
      'the one status that all of them get',
      { set: { type: 'ty_check', status: 'st_hand' }, statuses: { st_open: 'st_new' } },
      { type: 'ty_check', status: 'st_hand' },
    ],
  ]
  it.each(cases)('%s', (_, change, expected) => {
    expect(changeFor(rules, change, item)).toEqual(expected)
  })
})

describe('a change of many items in words', () => {
  const [label] = vocabulary.choices('label')
  const cases: readonly [BulkChange, string[]][] = [
    [{ delete: true }, ['They go to the bin']],
    [
      { set: { due: '2026-12-01', estimate: 3 } },
      ['Due becomes “1 Dec 2026”', 'Estimate becomes “3”'],
    ],
    [{ set: { assignee: null } }, ['Assignee is emptied']],
    [
      { set: { due: 'soon', priority: { id: 'nope' } } },
      ['Due becomes “soon”', 'Priority becomes “{"id":"nope"}”'],
    ],
    [{ add: { labels: [label!.id] } }, [`Labels: “deck: ${label!.title}” added`]],
    [{ remove: { labels: [label!.id] } }, [`Labels: “deck: ${label!.title}” taken away`]],
    [{ set: { comment: 'As agreed.' } }, ['“As agreed.” is said with it']],
  ]
  it.each(cases)('%j', (change, expected) => {
    const words = bulkInWords(change, vocabulary, 'Europe/Berlin')
    expect([...words].sort()).toEqual([...expected].sort())
  })
})

describe('refusals', () => {
  it('are gathered by their reason, the most frequent first, with the first of their items', () => {
    const refusals = new Refusals()
    for (let number = 1; number <= 30; number += 1) refusals.add(`YARD/${number}`, 'no')
    refusals.add('YARD/40', 'never')
    const [first, second] = refusals.list()
    expect(first).toMatchObject({ message: 'no', count: 30 })
    expect(first!.refs).toHaveLength(20)
    expect(second).toEqual({ message: 'never', count: 1, refs: ['YARD/40'] })
  })
})
