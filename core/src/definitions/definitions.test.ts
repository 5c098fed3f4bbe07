import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyDocument, soundDocument } from '../../test/document.ts'
import { addEdit, addEdits, type Change, fold, replaceAt, restingOn, same } from './draft/change.ts'
import { apply, diff } from './draft/diff.ts'
import type { DefinitionsDocument } from './document/document.ts'
import { impact } from './impact/impact.ts'
import { orderBetween, orderKeys } from './document/order.ts'
import { entriesOf } from './rulebook/resolve.ts'
import { flowOf, movesFrom } from './rulebook/rulebook.ts'
import { noUsage } from './impact/usage.ts'
import { validate } from './validate/validate.ts'
import { vocabularyOf } from '../vocabulary/vocabularyOf.ts'

describe('diff', () => {
  it('applied to the first document gives the second', () => {
    fc.assert(
      fc.property(anyDocument, anyDocument, (a, b) => {
        expect(apply(a, diff(a, b))).toEqual(b)
      }),
      { numRuns: 300 },
    )
  })

  it('of a document with itself is empty, and only then', () => {
    fc.assert(
      fc.property(anyDocument, anyDocument, (a, b) => {
        expect(diff(a, b).length === 0).toBe(same(a, b))
      }),
      { numRuns: 200 },
    )
  })

  it('tells the smallest part that changed', () => {
    const renamed = replaceAt(soundDocument, ['statuses', 'st_hand', 'title'], 'In work')
    expect(diff(soundDocument, renamed)).toEqual([
      { path: ['statuses', 'st_hand', 'title'], before: 'In hand', after: 'In work' },
    ])
  })
})

describe('validate', () => {
  it('finds nothing wrong with a sound document', () => {
    expect(validate(soundDocument)).toEqual([])
  })

  it.each<[string, string[], unknown, string, RegExp]>([
    [
      'two statuses of one title',
      ['statuses', 'st_hand', 'title'],
      'open',
      '/statuses/st_hand/title',
      /already a status called “Open”/,
    ],
    [
      'a handle that queries use',
      ['fields', 'fi_cost', 'handle'],
      'status',
      '/fields/fi_cost/handle',
      /already has a meaning/,
    ],
    [
      'a handle that is a word of the language',
      ['fields', 'fi_cost', 'handle'],
      'and',
      '/fields/fi_cost/handle',
      /already has a meaning/,
    ],
    [
      'two fields with one option',
      ['fields', 'fi_pier'],
      {
        order: 'c',
        title: 'Pier',
        description: '',
        handle: 'pier',
        kind: 'choice',
        options: { op_north: { order: 'a', title: 'North', description: '' } },
      },
      '/fields/fi_pier/options/op_north',
      /has the identity of one of/,
    ],
    [
      'two fields of one handle',
      ['fields', 'fi_berth', 'handle'],
      'cost',
      '/fields/fi_berth/handle',
      /has this handle/,
    ],
    [
      'a choice without options',
      ['fields', 'fi_berth', 'options'],
      {},
      '/fields/fi_berth/options',
      /without options/,
    ],
    [
      'a unit on what is no number',
      ['fields', 'fi_berth', 'unit'],
      'h',
      '/fields/fi_berth/unit',
      /of kind choice, which has no unit/,
    ],
    [
      'a default off the ladder',
      ['ladders', 'ld_ops', 'default'],
      'pi_lost',
      '/ladders/ld_ops/default',
      /not one of its rungs/,
    ],
    [
      'a rung nobody defined',
      ['ladders', 'ld_ops', 'rungs', 'pi_lost'],
      { order: 'a0' },
      '/ladders/ld_ops/rungs/pi_lost',
      /names a priority that is not defined/,
    ],
    [
      'a circle of extension',
      ['rulebooks', 'rb_all', 'extends'],
      'rb_all',
      '/rulebooks/rb_all/extends',
      /in a circle/,
    ],
    [
      'a type nobody defined',
      ['rulebooks', 'rb_all', 'entries', 'type:ty_lost'],
      { start: 'st_open' },
      '/rulebooks/rb_all/entries/type:ty_lost',
      /names a type that is not defined/,
    ],
    [
      'a key of no shape',
      ['rulebooks', 'rb_all', 'entries', 'mood:ty_job'],
      {},
      '/rulebooks/rb_all/entries/mood:ty_job',
      /no key of a rulebook/,
    ],
    [
      'a flow without a start',
      ['rulebooks', 'rb_all', 'entries', 'type:ty_job'],
      {},
      '/rulebooks/rb_all/entries/type:ty_job/start',
      /does not say in which/,
    ],
    [
      'a flow that cannot be left',
      ['rulebooks', 'rb_all', 'entries', 'move:ty_job:st_hand:st_off'],
      undefined,
      '/rulebooks/rb_all/entries/status:ty_job:st_off',
      /Nothing leads to “Signed off”/,
    ],
    [
      'a smallest above the largest',
      ['fields', 'fi_cost'],
      { ...soundDocument.fields['fi_cost']!, smallest: 3, largest: 2 },
      '/fields/fi_cost/smallest',
      /larger than its largest/,
    ],
    [
      'a default of another kind',
      ['fields', 'fi_cost', 'default'],
      'today',
      '/fields/fi_cost/default',
      /not a value of its kind/,
    ],
    [
      'a default option nobody offers',
      ['fields', 'fi_berth', 'default'],
      'op_lost',
      '/fields/fi_berth/default',
      /not a value of its kind/,
    ],
    [
      'a pattern on what is no text',
      ['fields', 'fi_cost', 'pattern'],
      'a+',
      '/fields/fi_cost/pattern',
      /has no pattern/,
    ],
    [
      'a pattern that cannot be read',
      ['fields', 'fi_note'],
      { order: 'c', title: 'Note', description: '', handle: 'note', kind: 'text', pattern: '(' },
      '/fields/fi_note/pattern',
      /cannot be used: missing closing/,
    ],
    [
      'a pattern that could take for ever',
      ['fields', 'fi_note'],
      {
        order: 'c',
        title: 'Note',
        description: '',
        handle: 'note',
        kind: 'text',
        pattern: '(?=a+)a+b',
      },
      '/fields/fi_note/pattern',
      /very long/,
    ],
    [
      'a pattern that grows out of bounds',
      ['fields', 'fi_note'],
      {
        order: 'c',
        title: 'Note',
        description: '',
        handle: 'note',
        kind: 'text',
        pattern: '((a{100}){100})',
      },
      '/fields/fi_note/pattern',
      /invalid repeat count/,
    ],
    [
      'a formula of nothing known',
      ['fields', 'fi_score'],
      {
        order: 'c',
        title: 'Score',
        description: '',
        handle: 'score',
        kind: 'score',
        formula: 'cots * 2',
      },
      '/fields/fi_score/formula',
      /Did you mean cost/,
    ],
    [
      'a formula that is a condition',
      ['fields', 'fi_score'],
      {
        order: 'c',
        title: 'Score',
        description: '',
        handle: 'score',
        kind: 'score',
        formula: 'cost = 2 OR cost',
      },
      '/fields/fi_score/formula',
      /arithmetic, not a condition|cannot/,
    ],
    [
      'a score of a text',
      ['fields', 'fi_score'],
      {
        order: 'c',
        title: 'Score',
        description: '',
        handle: 'score',
        kind: 'score',
        formula: 'title + 1',
      },
      '/fields/fi_score/formula',
      /number/,
    ],
    [
      'a roll-up of nothing',
      ['fields', 'fi_sum'],
      {
        order: 'c',
        title: 'Sum',
        description: '',
        handle: 'total',
        kind: 'roll-up',
        rollUp: { how: 'sum', of: 'lost' },
      },
      '/fields/fi_sum/rollUp',
      /not defined/,
    ],
    [
      'a type below one that is not larger',
      ['types', 'ty_job', 'below'],
      ['ty_job'],
      '/types/ty_job/below',
      /cannot stand below/,
    ],
    [
      'a requirement of a field nobody defined',
      ['rulebooks', 'rb_all', 'entries', 'requirement:ty_job:st_off'],
      { requires: { filled: ['fi_lost'] } },
      '/rulebooks/rb_all/entries/requirement:ty_job:st_off/requires/filled',
      /names a field/,
    ],
    [
      'a field that waits for itself',
      ['rulebooks', 'rb_all', 'entries', 'form:ty_job:item:fi_cost'],
      { order: 'b', shownWhen: { field: 'fi_cost', values: ['x'] } },
      '/rulebooks/rb_all/entries/form:ty_job:item:fi_cost/shownWhen/field',
      /its own value/,
    ],
    [
      'a move of its own to a status outside the flow',
      ['rulebooks', 'rb_all', 'entries', 'status:ty_job:st_off'],
      undefined,
      '/rulebooks/rb_all/entries/move:ty_job:st_hand:st_off',
      /does not use/,
    ],
    [
      'a limit that ends nowhere',
      ['limits', 'tl_a'],
      {
        order: 'a',
        title: 'Answer',
        description: '',
        what: 'respond',
        allowances: [{ minutes: 60 }],
        ends: ['st_lost'],
        warnAt: 80,
      },
      '/limits/tl_a/ends',
      /names a status/,
    ],
    [
      'an allowance by two things',
      ['limits', 'tl_a'],
      {
        order: 'a',
        title: 'Answer',
        description: '',
        what: 'respond',
        allowances: [{ minutes: 60, urgency: 1, priority: 'pi_now' }],
        ends: ['st_hand'],
        warnAt: 80,
      },
      '/limits/tl_a/allowances/0',
      /not by several/,
    ],
    [
      'a link kind of a type nobody defined',
      ['linkKinds', 'lk_a'],
      { order: 'a', title: 'waits for', inverse: 'holds up', description: '', from: ['ty_lost'] },
      '/linkKinds/lk_a/from',
      /names a type/,
    ],
    [
      'a project that follows nothing',
      ['projects', 'pr_yard'],
      'rb_lost',
      '/projects/pr_yard',
      /names a rulebook/,
    ],
  ])('refuses %s', (_, path, after, pointer, message) => {
    const problems = validate(replaceAt(soundDocument, path, after))
    expect(problems.map((problem) => problem.pointer)).toContain(pointer)
    expect(problems.find((problem) => problem.pointer === pointer)!.message).toMatch(message)
  })

  it('finds a status that no move leads out of while work in it is open', () => {
    const stuck = ['move:ty_job:st_hand:st_off', 'move:ty_job:st_hand:st_open'].reduce(
      (document, key) => replaceAt(document, ['rulebooks', 'rb_all', 'entries', key], undefined),
      soundDocument,
    )
    expect(validate(stuck).map((problem) => problem.message)).toContain(
      'No move leads out of “In hand” in the flow of “Job”.',
    )
  })
})

describe('a draft', () => {
  const made = (id: string) => ({ id, by: 'pe_1', at: '2026-11-25T10:00:00Z' })
  const edit = (changes: readonly Change[], path: string[], after: unknown): readonly Change[] =>
    addEdit(soundDocument, changes, { path, after }, made(`ch_${changes.length}`))

  it('lists what it does, not how it was typed', () => {
    let changes = edit([], ['statuses', 'st_hand', 'title'], 'In wo')
    changes = edit(changes, ['statuses', 'st_hand', 'title'], 'In work')
    expect(changes.map(({ before, after }) => [before, after])).toEqual([['In hand', 'In work']])
    expect(edit(changes, ['statuses', 'st_hand', 'title'], 'In hand')).toEqual([])
  })

  it('joins edits of what it added itself to the adding', () => {
    let changes = edit([], ['priorities', 'pi_new'], {
      order: 'b',
      title: 'Soon',
      urgency: 2,
      description: '',
    })
    changes = edit(changes, ['priorities', 'pi_new', 'urgency'], 3)
    expect(changes).toHaveLength(1)
    expect(fold(soundDocument, changes).priorities['pi_new']!.urgency).toBe(3)
  })

  it('does not undo what later changes rest on', () => {
    const changes: Change[] = [
      { ...made('ch_1'), path: ['priorities', 'pi_new'], after: {} },
      { ...made('ch_2'), path: ['priorities', 'pi_new', 'title'], after: 'x' },
      { ...made('ch_3'), path: ['types'], after: {} },
    ]
    expect(restingOn(changes, 'ch_1').map((change) => change.id)).toEqual(['ch_2'])
    expect(restingOn(changes, 'ch_3')).toEqual([])
  })

  it('takes many edits at once as it takes them one by one', () => {
    const step = fc.constantFrom<[string[], unknown]>(
      [['statuses', 'st_hand', 'title'], 'A'],
      [['statuses', 'st_hand', 'title'], 'In hand'],
      [['statuses', 'st_open', 'queue'], false],
      [['priorities', 'pi_x'], { order: 'z', title: 'X', urgency: 1, description: '' }],
      [['priorities', 'pi_x', 'title'], 'Y'],
      [['priorities', 'pi_x'], undefined],
      [['statuses', 'st_hand'], undefined],
    )
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        let count = 0
        const many = addEdits(
          soundDocument,
          [],
          steps.map(([path, after]) => ({ path, after })),
          () => made(`ch_${(count += 1)}`),
        )
        count = 0
        const single = steps.reduce<readonly Change[]>(
          (all, [path, after]) =>
            addEdit(soundDocument, all, { path, after }, made(`ch_${(count += 1)}`)),
          [],
        )
        expect(many).toEqual(single)
      }),
      { numRuns: 300 },
    )
  })

  it('undone change by change from the last is the base again', () => {
    const step = fc.constantFrom<[string[], unknown]>(
      [['statuses', 'st_hand', 'title'], 'A'],
      [['statuses', 'st_open', 'queue'], false],
      [['priorities', 'pi_x'], { order: 'z', title: 'X', urgency: 1, description: '' }],
      [['priorities', 'pi_x', 'title'], 'Y'],
      [['rulebooks', 'rb_all', 'entries', 'move:ty_job:st_open:st_hand'], undefined],
    )
    fc.assert(
      fc.property(fc.array(step, { maxLength: 8 }), (steps) => {
        const changes = steps.reduce<readonly Change[]>(
          (all, [path, after]) =>
            path.length === 3 &&
            path[1] === 'pi_x' &&
            !all.some((change) => change.path.join() === 'priorities,pi_x')
              ? all
              : edit(all, path, after),
          [],
        )
        const document = fold(soundDocument, changes)
        const undone = changes
          .toReversed()
          .reduce<DefinitionsDocument>(
            (all, change) => replaceAt(all, change.path, change.before),
            document,
          )
        expect(same(undone, soundDocument)).toBe(true)
      }),
      { numRuns: 200 },
    )
  })

  it('says in words what it does, and how many items that touches', () => {
    const after = replaceAt(
      replaceAt(soundDocument, ['statuses', 'st_hand', 'title'], 'In work'),
      ['rulebooks', 'rb_all', 'entries', 'move:ty_job:st_open:st_off'],
      {},
    )
    const usage = {
      ...noUsage,
      items: { st_hand: 12 },
      held: [
        {
          column: 'status' as const,
          project: 'pr_yard',
          type: 'ty_job',
          value: 'st_open',
          items: 5,
        },
        {
          column: 'status' as const,
          project: 'pr_other',
          type: 'ty_job',
          value: 'st_open',
          items: 3,
        },
      ],
    }
    expect(
      impact(soundDocument, after, diff(soundDocument, after), usage).changes.map(
        ({ words, items }) => [words, items],
      ),
    ).toEqual([
      ['allows “Job” to go from “Open” to “Signed off”', 5],
      ['renames status “In hand” to “In work”', 12],
    ])
  })
})

describe('a rulebook', () => {
  it('that extends another and changes nothing has its parent’s entries', () => {
    const child = replaceAt(soundDocument, ['rulebooks', 'rb_own'], {
      order: 'b',
      title: 'Own',
      description: '',
      extends: 'rb_all',
      entries: {},
    })
    expect([...entriesOf(child, 'rb_own')]).toEqual([...entriesOf(soundDocument, 'rb_all')])
  })

  it('leaves out, adds and changes entry by entry', () => {
    const child = replaceAt(soundDocument, ['rulebooks', 'rb_own'], {
      order: 'b',
      title: 'Own',
      description: '',
      extends: 'rb_all',
      entries: { 'move:ty_job:st_open:st_hand': 'out', 'move:ty_job:st_open:st_off': {} },
    })
    expect(movesFrom(flowOf(child, 'rb_own', 'ty_job'), 'st_open')).toEqual(['st_off'])
    expect(flowOf(child, 'rb_own', 'ty_job').statuses).toEqual(['st_open', 'st_hand', 'st_off'])
  })
})

describe('order keys', () => {
  it('stand between their neighbours, by code point, again and again', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(1000), { maxLength: 60 }), (places) => {
        const keys: string[] = []
        for (const place of places) {
          const at = place % (keys.length + 1)
          keys.splice(at, 0, orderBetween(keys[at - 1] ?? null, keys[at] ?? null))
        }
        expect(keys).toEqual([...keys].sort())
        expect(new Set(keys).size).toBe(keys.length)
      }),
      { numRuns: 100 },
    )
    expect(orderKeys(200)).toEqual([...orderKeys(200)].sort())
  })
})

describe('the vocabulary of a document', () => {
  const vocabulary = vocabularyOf(soundDocument, {
    projects: [{ id: 'pr_yard', code: 'YARD', title: 'Fleet Yard', calendar: null }],
    people: [],
    labels: [{ id: 'la_1', title: 'wet', family: null }],
    components: [],
    iterations: [],
    releases: [],
    teams: [],
    calendars: [],
  })
  it('knows fields by handle, options by field, and rungs by project', () => {
    expect(vocabulary.properties.get('cost')).toMatchObject({
      title: 'Cost',
      type: { kind: 'number' },
      nullable: true,
    })
    expect(vocabulary.choices('option:fi_berth').map((option) => option.title)).toEqual(['North'])
    expect([
      vocabulary.rungOf('pr_yard', 'pi_later'),
      vocabulary.rungOf('pr_lost', 'pi_later'),
    ]).toEqual([2, null])
  })
})
