import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { soundDocument } from '../../../test/document.ts'
import { replaceAt } from '../draft/change.ts'
import { diff } from '../draft/diff.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { impact } from './impact.ts'
import { anyOf } from './filters.ts'
import { mapped, mappingNeeds, mappingsOf, openNeeds } from './mapping.ts'
import { type Holding, noUsage, type Usage } from './usage.ts'

const entry = (document: DefinitionsDocument, key: string, after?: unknown): DefinitionsDocument =>
  replaceAt(document, ['rulebooks', 'rb_all', 'entries', key], after)
const held = (
  column: Holding['column'],
  value: string,
  items: number,
  type = 'ty_job',
  project = 'pr_yard',
): Holding => ({ column, project, type, value, items })
const usage = (...all: Holding[]): Usage => ({ ...noUsage, held: all })

const second = { order: 'b', title: 'Task', monogram: 'Ta', tier: 1, description: '' }
const twoTypes = ['type:ty_task', 'status:ty_task:st_open', 'status:ty_task:st_off'].reduce(
  (document, key) =>
    entry(document, key, key.startsWith('type') ? { start: 'st_open' } : { order: key }),
  entry(replaceAt(soundDocument, ['types', 'ty_task'], second), 'move:ty_task:st_open:st_off', {}),
)

describe('what a draft must ask', () => {
  it('what items in a status become that leaves the flow', () => {
    const needs = mappingNeeds(
      soundDocument,
      entry(soundDocument, 'status:ty_job:st_hand'),
      usage(held('status', 'st_hand', 7), held('status', 'st_open', 3)),
    )
    expect(needs).toEqual([
      {
        key: 'status:st_hand:rb_all:ty_job',
        column: 'status',
        from: 'st_hand',
        projects: ['pr_yard'],
        types: ['ty_job'],
        items: 7,
        choices: ['st_open', 'st_off'],
        mayEmpty: false,
        needed: true,
      },
    ])
  })

  it('what a priority becomes when its rung goes, for each rulebook apart', () => {
    const [need] = mappingNeeds(
      soundDocument,
      replaceAt(soundDocument, ['ladders', 'ld_ops', 'rungs', 'pi_now'], undefined),
      usage(
        held('priority', 'pi_now', 2),
        held('priority', 'pi_now', 3, 'ty_other'),
        held('priority', 'pi_later', 9),
      ),
    )
    expect(need).toMatchObject({
      items: 5,
      types: ['ty_job', 'ty_other'],
      choices: ['pi_later'],
      mayEmpty: true,
      needed: true,
    })
  })

  it('only offers to map what is merely retired', () => {
    const needs = mappingNeeds(
      soundDocument,
      replaceAt(soundDocument, ['fields', 'fi_berth', 'options', 'op_north', 'retired'], true),
      usage(held('option:fi_berth', 'op_north', 4)),
    )
    expect(needs).toMatchObject([
      { column: 'option:fi_berth', items: 4, needed: false, choices: [] },
    ])
    expect(openNeeds(needs, {})).toEqual([])
  })

  it('nothing about what was out of use before', () => {
    const before = entry(soundDocument, 'status:ty_job:st_hand')
    expect(
      mappingNeeds(
        before,
        replaceAt(before, ['types', 'ty_job', 'title'], 'Task'),
        usage(held('status', 'st_hand', 7)),
      ),
    ).toEqual([])
  })

  it('of a type that goes, first what it becomes, then what its statuses become there', () => {
    const without = entry(twoTypes, 'type:ty_job')
    const all = usage(
      held('type', 'ty_job', 10),
      held('status', 'st_hand', 6),
      held('status', 'st_open', 4),
    )
    expect(mappingNeeds(twoTypes, without, all).map((need) => need.key)).toEqual([
      'type:ty_job:rb_all',
    ])
    const choices = { 'type:ty_job:rb_all': 'ty_task' }
    expect(
      mappingNeeds(twoTypes, without, all, choices).map((need) => [need.key, need.choices]),
    ).toEqual([
      ['type:ty_job:rb_all', ['ty_task']],
      ['status:st_hand:rb_all:ty_job', ['st_off', 'st_open']],
    ])
    expect(
      mappingsOf(twoTypes, without, all, {
        ...choices,
        'status:st_hand:rb_all:ty_job': 'st_open',
      }).map((mapping) => [mapping.column, mapping.from, mapping.to]),
    ).toEqual([
      ['status', 'st_hand', 'st_open'],
      ['type', 'ty_job', 'ty_task'],
    ])
  })

  it('no question of a project that moves to a rulebook with the same words', () => {
    const other = replaceAt(soundDocument, ['rulebooks', 'rb_own'], {
      order: 'b',
      title: 'Own',
      description: '',
      extends: 'rb_all',
      entries: {},
    })
    expect(
      mappingNeeds(
        other,
        replaceAt(other, ['projects', 'pr_yard'], 'rb_own'),
        usage(held('status', 'st_hand', 7), held('priority', 'pi_now', 1)),
      ),
    ).toEqual([])
  })

  it('an answer that is no longer offered is open again', () => {
    const needs = mappingNeeds(
      soundDocument,
      entry(soundDocument, 'status:ty_job:st_hand'),
      usage(held('status', 'st_hand', 7)),
    )
    expect(
      [
        {},
        { [needs[0]!.key]: 'st_off' },
        { [needs[0]!.key]: 'st_lost' },
        { [needs[0]!.key]: null },
      ].map((choices) => openNeeds(needs, choices).length),
    ).toEqual([1, 0, 1, 1])
  })

  it('a status in use whose phase changes stays itself in another phase', () => {
    const after = replaceAt(soundDocument, ['statuses', 'st_hand', 'phase'], 'idle')
    expect(mappingsOf(soundDocument, after, usage(held('status', 'st_hand', 2)), {})).toEqual([
      {
        column: 'status',
        from: 'st_hand',
        to: 'st_hand',
        projects: ['pr_yard'],
        types: ['ty_job'],
      },
    ])
    expect(mappingsOf(soundDocument, after, usage(), {})).toEqual([])
  })
})

/** Items of made-up projects and types, and drafts that take things from them. */
const items = fc.array(
  fc.record({
    project: fc.constantFrom('pr_yard', 'pr_pier'),
    type: fc.constantFrom('ty_job', 'ty_task'),
    status: fc.constantFrom('st_open', 'st_hand', 'st_off'),
    priority: fc.constantFrom('pi_now', 'pi_later'),
  }),
  { maxLength: 40 },
)
const draft = fc.subarray([
  'status:ty_job:st_hand',
  'status:ty_task:st_off',
  'type:ty_job',
  'type:ty_task',
  'rung',
])

describe('what impact counts', () => {
  it('equals what publishing changes, counted item by item', () => {
    const before = replaceAt(twoTypes, ['projects'], { pr_yard: 'rb_all', pr_pier: 'rb_all' })
    fc.assert(
      fc.property(items, draft, fc.nat(), (all, steps, seed) => {
        const after = steps.reduce(
          (document, key) =>
            key === 'rung'
              ? replaceAt(document, ['ladders', 'ld_ops', 'rungs', 'pi_now'], undefined)
              : entry(document, key),
          before,
        )
        const counted = new Map<string, Holding>()
        for (const item of all)
          for (const column of ['type', 'status', 'priority'] as const) {
            const key = [column, item.project, item.type, item[column]].join()
            counted.set(key, {
              column,
              project: item.project,
              type: item.type,
              value: item[column],
              items: (counted.get(key)?.items ?? 0) + 1,
            })
          }
        const used = { ...noUsage, held: [...counted.values()] }
        // Answer every question, again until no new one comes up.
        let choices: Record<string, string> = {}
        for (let round = 0; round < 3; round += 1)
          for (const need of impact(before, after, diff(before, after), used, choices).needs)
            if (need.choices.length > 0)
              choices = { ...choices, [need.key]: need.choices[seed % need.choices.length]! }
        const needs = mappingNeeds(before, after, used, choices).filter((need) => choices[need.key])
        const mappings = mappingsOf(before, after, used, choices)
        for (const column of ['type', 'status', 'priority'] as const) {
          const changed = all.filter(
            (item) => mapped(mappings, item, column, item[column]) !== item[column],
          ).length
          expect(
            needs
              .filter((need) => need.column === column)
              .reduce((sum, need) => sum + need.items, 0),
          ).toBe(changed)
        }
      }),
      { numRuns: 200 },
    )
  })

  it('of a rung that moves are the items on every rung whose number changes', () => {
    const rungs = soundDocument.ladders['ld_ops']!.rungs
    const [first, second] = Object.keys(rungs) as [string, string]
    const turned = replaceAt(soundDocument, ['ladders', 'ld_ops', 'rungs'], {
      ...rungs,
      [first]: { ...rungs[first]!, order: rungs[second]!.order },
      [second]: { ...rungs[second]!, order: rungs[first]!.order },
    })
    for (const { filter } of impact(soundDocument, turned, diff(soundDocument, turned), noUsage)
      .changes)
      expect(JSON.stringify(filter)).toContain(`["${first}","${second}"]`)
  })

  it('of a change that replaces more than it changes is only of what differs', () => {
    const after = replaceAt(
      soundDocument,
      [
        'fields',
        'fi_berth',
        'options',
        Object.keys(soundDocument.fields['fi_berth']!.options!)[0]!,
        'retired',
      ],
      true,
    )
    const whole = [
      {
        path: ['fields', 'fi_berth', 'options'],
        before: soundDocument.fields['fi_berth']!.options,
        after: after.fields['fi_berth']!.options,
      },
    ]
    const used: Usage = {
      items: { fi_berth: 704, [Object.keys(soundDocument.fields['fi_berth']!.options!)[0]!]: 97 },
      held: [],
      named: {},
    }
    expect(impact(soundDocument, after, whole, used).changes.map((change) => change.items)).toEqual(
      [97],
    )
  })

  it('joined are one filter in which each item stands once', () => {
    const is = (property: string, value: string) => ({ op: '=', args: [{ property }, value] })
    expect(
      anyOf([is('status', 'st_a'), is('status', 'st_b'), is('type', 'ty_a'), is('status', 'st_a')]),
    ).toEqual({
      op: 'or',
      args: [{ op: 'in', args: [{ property: 'status' }, ['st_a', 'st_b']] }, is('type', 'ty_a')],
    })
    expect(anyOf([is('status', 'st_a')])).toEqual(is('status', 'st_a'))
  })

  it('opens the items it counts: a filter beside every count that is not nought', () => {
    const after = entry(
      replaceAt(
        replaceAt(soundDocument, ['statuses', 'st_hand', 'title'], 'At work'),
        ['ladders', 'ld_ops', 'default'],
        'pi_now',
      ),
      'move:ty_job:st_open:st_off',
      {},
    )
    const used: Usage = {
      items: { st_hand: 3 },
      named: { st_hand: [{ kind: 'query', id: 'qu_1', title: 'In hand' }] },
      held: [held('status', 'st_open', 2), held('priority', 'pi_later', 4)],
    }
    expect(
      impact(soundDocument, after, diff(soundDocument, after), used).changes.map(
        ({ words, items: count, filter, named }) => [
          words,
          count,
          JSON.stringify(filter),
          named.length,
        ],
      ),
    ).toEqual([
      // A default is for items that are still to be made.
      ['makes “Now” the default of ladder “Operations”', 0, undefined, 0],
      [
        'allows “Job” to go from “Open” to “Signed off”',
        2,
        '{"op":"and","args":[{"op":"=","args":[{"property":"project"},"pr_yard"]},{"op":"=","args":[{"property":"type"},"ty_job"]},{"op":"=","args":[{"property":"status"},"st_open"]}]}',
        0,
      ],
      [
        'renames status “In hand” to “At work”',
        3,
        '{"op":"=","args":[{"property":"status"},"st_hand"]}',
        1,
      ],
    ])
  })
})
